/** The size of a fixed page, in the pixels of its document (EPUB 3.3 §8.2.2.6). */
export function viewportOf(document: Document): { width: number; height: number } | null {
  const said = document.querySelector('meta[name="viewport"]')?.getAttribute('content') ?? '';
  const box =
    document.documentElement
      .getAttribute('viewBox')
      ?.trim()
      .split(/[\s,]+/) ?? [];
  const width = Number(/(?:^|[\s,;])width\s*=\s*([\d.]+)/.exec(said)?.[1] ?? box[2]);
  const height = Number(/(?:^|[\s,;])height\s*=\s*([\d.]+)/.exec(said)?.[1] ?? box[3]);
  return width > 0 && height > 0 ? { width, height } : null;
}
