export function circles(root: string, files: readonly string[]): string[][];
