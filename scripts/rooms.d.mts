export function breach(file: string, source: string): string | null;
