/** A note shown over the foot of the screen, where the file says that a link calls one (EPUB Structural Semantics 1.1). */

export const callsNote = (link: Element): boolean =>
  /(^|\s)noteref(\s|$)/.test(link.getAttributeNS('http://www.idpf.org/2007/ops', 'type') ?? '') ||
  /(^|\s)noteref(\s|$)/.test(link.getAttribute('epub:type') ?? '') ||
  link.getAttribute('role') === 'doc-noteref';

const XHTML = 'http://www.w3.org/1999/xhtml';
/** What holds a whole note, where the link leads into one. */
const HOLDER = 'aside, li, dd, div, p, section';

/** Lays a note over the document in which it is called. `onFollow` goes to where it stands. */
export function showNote(document: Document, note: Element, paper: string, onFollow: () => void): void {
  closeNote(document);
  const make = (name: string): HTMLElement => document.createElementNS(XHTML, name) as HTMLElement;
  const laid = make('div');
  laid.setAttribute('data-reader-note', '');
  laid.setAttribute('role', 'dialog');
  laid.setAttribute('aria-label', 'Note');
  laid.setAttribute('tabindex', '-1');
  laid.setAttribute('style', `background: ${paper} !important`);
  const holder = note.matches(HOLDER) ? note : (note.closest(HOLDER) ?? note);
  const copy = document.importNode(holder, true);
  for (const e of [copy, ...copy.querySelectorAll('[id]')]) e.removeAttribute('id');
  copy.removeAttribute('hidden');
  // Its numbers and its way back belong to where it stands.
  const inside = make('div');
  inside.append(...(copy.localName === 'li' || copy.localName === 'dd' ? copy.childNodes : [copy]));
  const button = (words: string, run: () => void): HTMLElement => {
    const b = make('button');
    b.setAttribute('type', 'button');
    b.textContent = words;
    b.addEventListener('click', run);
    return b;
  };
  laid.append(
    inside,
    button('Close', () => closeNote(document)),
    button('Go to the note', () => {
      closeNote(document);
      onFollow();
    }),
  );
  document.documentElement.append(laid);
  laid.focus({ preventScroll: true });
}

/** Whether there was one to close. */
export function closeNote(document: Document): boolean {
  const laid = document.querySelector('[data-reader-note]');
  laid?.remove();
  return laid !== null;
}
