export const OTHER_EBOOKS: string;
export function packages(): void;
export function debian(): void;
export function otherEbooks(): void;
export function build(options?: { always?: boolean }): void;
