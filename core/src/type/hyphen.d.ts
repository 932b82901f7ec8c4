declare module 'hyphen/patterns/*';
