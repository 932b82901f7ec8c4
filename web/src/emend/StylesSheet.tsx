'use client';
/** The style sheets as their rules: what each applies to, how often, and its values as fields. */
import { useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { styleRules, type StyleDeclaration, type StyleRule } from '@pagina/core/emend';
import { fetchDocument } from '@/reader/source';
import { lineOf as input } from '@/ui/Field';
import { FileButton } from '@/ui/FileDrop';
import { Menu } from '@/ui/Menu';
import { Select } from '@/ui/Select';
import { Text } from '@/ui/Text';
import { useEbook, useSnapshot, useSource } from './context';
import { RenameFile } from './RenameFile';
import { Sheet } from './Sheet';
import { useBringing } from './useBringing';

export function StylesSheet() {
  const { run } = useEbook();
  const { view } = useSnapshot();
  const [renaming, setRenaming] = useState(false);
  const bring = useBringing('text/css', 'a style sheet');
  const add = (list: readonly File[]): Promise<void> =>
    bring(list, async (file) => {
      const saved = await run({ type: 'add-file', file });
      if (!saved?.show) return;
      setChosen(saved.show);
      toast('It was added. A document uses it once its head links to it, or another sheet imports it.');
    });
  const [chosen, setChosen] = useState<string | null>(null);
  const path = chosen !== null && view.sheets.includes(chosen) ? chosen : (view.sheets[0] ?? '');
  const { text, refusal } = useSource(path);
  const rules = useMemo(() => (text === null ? [] : styleRules(text)), [text]);
  const counts = useCounts(rules);
  const [find, setFind] = useState('');
  const shown = rules.filter(
    (r) =>
      find.trim() === '' ||
      `${r.selector} ${r.declarations.map((d) => `${d.property} ${d.value}`).join(' ')}`.includes(
        find.trim(),
      ),
  );
  return (
    <Sheet
      name="Styles"
      source={path}
      tools={
        <>
          {view.sheets.length > 1 ? (
            <Select
              label="Style sheet"
              className="h-7 max-w-64"
              value={path}
              choices={view.sheets.map((p) => ({ value: p, name: p.split('/').at(-1) ?? p }))}
              onChoose={setChosen}
            />
          ) : null}
          <Menu
            label="Style sheet"
            items={[
              { name: 'Rename the file', disabled: path === '', run: () => setRenaming(true) },
              {
                name: 'Remove',
                disabled: path === '',
                run: () => void run({ type: 'remove-file', path }),
              },
            ]}
          />
          <FileButton
            className="h-7 px-2"
            label="Style sheets"
            endings={['.css']}
            several
            onFiles={(l) => void add(l)}
          >
            Add
          </FileButton>
          <input
            type="search"
            aria-label="Find a rule"
            placeholder="Find a rule"
            className={input('h-7 w-44')}
            value={find}
            onChange={(e) => setFind(e.target.value)}
          />
        </>
      }
    >
      <RenameFile
        path={renaming ? path : null}
        onDone={(to) => {
          setRenaming(false);
          if (to) setChosen(to);
        }}
      />
      {path === '' ? (
        <p className="text-ink-soft">The ebook has no style sheet, so readers see it in their own styles.</p>
      ) : refusal ? (
        <p role="alert">{refusal}</p>
      ) : text !== null && rules.length === 0 ? (
        <p className="text-ink-soft">
          This style sheet has no rules that can be read. Its source can be looked at.
        </p>
      ) : (
        <ul className="max-w-[980px] border-t border-rule" aria-label="Rules">
          {shown.map((r) => (
            <Rule key={`${r.from} ${r.selector}`} path={path} rule={r} count={counts?.get(r) ?? null} />
          ))}
        </ul>
      )}
    </Sheet>
  );
}

function Rule({ path, rule, count }: { path: string; rule: StyleRule; count: number | null }) {
  const { session } = useEbook();
  const set = (d: StyleDeclaration, value: string): void => {
    const text = session.known(path) ?? '';
    // Typed elsewhere meanwhile: the field comes anew with the next drawing.
    if (text.slice(d.from, d.to) !== d.value || value === '') return;
    session.type([{ op: 'edit', path, at: d.from, removed: d.value, inserted: value }]);
  };
  return (
    <li data-rule={rule.selector} className="grid grid-cols-[280px_1fr] gap-x-4 border-b border-rule py-2">
      <span className="min-w-0">
        <span className="font-mono text-[13px] break-words">{rule.selector}</span>
        <span className="block text-[12px] text-ink-soft">
          {[
            rule.within,
            rule.selector.startsWith('@')
              ? ''
              : count === null
                ? 'counting …'
                : count === 0
                  ? 'applies to nothing'
                  : count === 1
                    ? 'applies to 1 element'
                    : `applies to ${count.toLocaleString('en-GB')} elements`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </span>
      <span className="grid grid-cols-[180px_1fr] items-center gap-x-2 gap-y-1">
        {rule.declarations.map((d) => (
          <span key={d.from} className="contents">
            <span className="truncate text-[13px] text-ink-soft">{d.property}</span>
            <span className="flex items-center gap-2">
              <Text
                aria-label={`${d.property} of ${rule.selector}`}
                value={d.value}
                onCommit={(v) => set(d, v)}
              />
              {d.important ? <span className="text-[12px] text-ink-soft">!important</span> : null}
            </span>
          </span>
        ))}
        {rule.declarations.length === 0 ? (
          <span className="text-[13px] text-ink-soft">Says nothing.</span>
        ) : null}
      </span>
    </li>
  );
}

/** To how many elements of the ebook each rule applies; states such as `:hover` are left out of a selector. */
function useCounts(rules: readonly StyleRule[]): Map<StyleRule, number> | null {
  const { session } = useEbook();
  const { view } = useSnapshot();
  const [documents, setDocuments] = useState<Document[] | null>(null);
  const paths = view.documents.map((d) => d.path).join('\n');
  useEffect(() => {
    let gone = false;
    void (async () => {
      const read: Document[] = [];
      const source = { base: `/api/ebooks/${session.id}/parts/`, order: null as never };
      for (const path of paths.split('\n')) {
        if (gone) return;
        read.push(await fetchDocument(source, path));
      }
      if (!gone) setDocuments(read);
    })().catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [session, paths]);
  return useMemo(() => {
    if (!documents) return null;
    return new Map(
      rules.map((r) => {
        const plain = r.selector.replace(
          /::?(before|after|first-letter|first-line|hover|active|focus|visited|link|marker)\b/g,
          '',
        );
        let n = 0;
        try {
          for (const d of documents) n += d.querySelectorAll(plain).length;
        } catch {
          n = 0;
        }
        return [r, n];
      }),
    );
  }, [documents, rules]);
}
