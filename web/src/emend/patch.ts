/** Makes one tree of a document like another, and leaves alone whatever is the same already. */

export function patch(was: Element, now: Element): void {
  if (was.isEqualNode(now)) return;
  for (const { name } of [...was.attributes]) if (!now.hasAttribute(name)) was.removeAttribute(name);
  for (const a of now.attributes)
    if (was.getAttributeNS(a.namespaceURI, a.localName) !== a.value)
      was.setAttributeNS(a.namespaceURI, a.name, a.value);
  const old = [...was.childNodes];
  const fresh = [...now.childNodes];
  let start = 0;
  while (start < old.length && start < fresh.length && old[start]?.isEqualNode(fresh[start] ?? null)) start++;
  let end = 0;
  while (
    end < old.length - start &&
    end < fresh.length - start &&
    old.at(-1 - end)?.isEqualNode(fresh.at(-1 - end) ?? null)
  )
    end++;
  const [first, other] = [old[start], fresh[start]];
  const alone = old.length - start - end === 1 && fresh.length - start - end === 1;
  if (alone && isElement(first) && isElement(other) && first.nodeName === other.nodeName)
    return patch(first, other);
  const before = old[old.length - end] ?? null;
  for (const node of old.slice(start, old.length - end)) node.remove();
  for (const node of fresh.slice(start, fresh.length - end))
    was.insertBefore(was.ownerDocument.importNode(node, true), before);
}
/** Nodes of another window are of no class of this one. */
const isElement = (node: Node | undefined): node is Element => node?.nodeType === Node.ELEMENT_NODE;
