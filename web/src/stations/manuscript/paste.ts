'use client';
/**
 * What is pasted is cleaned before it becomes text: what a word processor or a web page says of looks goes, what it says
 * of meaning stays. Pictures that come with it are kept as files of the title; pictures elsewhere are not fetched.
 */

const GONE =
  'style, script, meta, link, title, head, o\\:p, xml, template, noscript, iframe, object, svg, form, input, button';

/** The pasted markup, cleaned; pictures are left as `<img data-pasted="i">` with their addresses in `pictures`. */
export function cleaned(html: string): {
  html: string;
  pictures: { src: string; alt: string }[];
  left: number;
} {
  const doc = new DOMParser().parseFromString(html.replace(/<!--[\s\S]*?-->/g, ''), 'text/html');
  doc.querySelectorAll(GONE).forEach((e) => e.remove());
  const pictures: { src: string; alt: string }[] = [];
  let left = 0;
  // Numbers and bullets that a word processor typed before its list items, and what it hides.
  doc.querySelectorAll<HTMLElement>('[style]').forEach((e) => {
    const style = e.getAttribute('style') ?? '';
    if (/mso-list:\s*ignore|display:\s*none|mso-hide:\s*all/i.test(style)) e.remove();
    else if (/text-decoration[^;]*underline/i.test(style) && e.tagName !== 'A') e.style.textDecoration = '';
  });
  doc.querySelectorAll('img').forEach((img) => {
    const src = img.getAttribute('src') ?? '';
    if (/^data:image\//i.test(src)) {
      const figure = doc.createElement('figure');
      figure.setAttribute('data-picture', `pasted-${pictures.length}`);
      figure.setAttribute('data-alt', img.getAttribute('alt') ?? '');
      figure.append(doc.createElement('figcaption'));
      pictures.push({ src, alt: img.getAttribute('alt') ?? '' });
      const block = img.closest('p, h1, h2, h3, h4, h5, h6, li, div');
      if (block?.parentElement && block.tagName !== 'DIV') block.before(figure);
      else img.before(figure);
    } else if (src !== '') left++;
    img.remove();
  });
  // A first or second heading of a page is a subhead of a section; the section has a title of its own.
  doc.querySelectorAll('h1, h5, h6').forEach((h) => rename(h, h.tagName === 'H1' ? 'h2' : 'h4'));
  doc.querySelectorAll('p, div, li, blockquote').forEach((e) => {
    const empty =
      (e.textContent ?? '').replace(/[\s\u00a0]/g, '') === '' && !e.querySelector('img, figure, hr, br');
    if (empty || (e.tagName === 'P' && e.innerHTML.trim() === '<br>')) e.remove();
  });
  // Tabs, runs of spaces and soft hyphens are looks; monospace text keeps them.
  const texts = doc.createTreeWalker(doc.body, NodeFilter.SHOW_TEXT);
  for (let t = texts.nextNode(); t; t = texts.nextNode())
    if (!t.parentElement?.closest('pre, code'))
      t.nodeValue = (t.nodeValue ?? '').replace(/[\u00ad\u200b\ufeff]/g, '').replace(/[ \t\r\n]+/g, ' ');
  return { html: doc.body.innerHTML, pictures, left };
}

function rename(e: Element, tag: string): void {
  const to = e.ownerDocument.createElement(tag);
  to.innerHTML = e.innerHTML;
  e.replaceWith(to);
}

/** The file of a picture that came as an address with its data. */
export async function fileOfData(src: string): Promise<Blob | null> {
  const m = /^data:([\w/+.-]+);base64,(.+)$/s.exec(src);
  if (!m) return null;
  try {
    return new Blob([Uint8Array.from(atob((m[2] as string).replace(/\s/g, '')), (c) => c.charCodeAt(0))], {
      type: m[1],
    });
  } catch {
    return null;
  }
}
