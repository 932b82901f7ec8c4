'use client';
/** What the package says of the ebook, line by line. */
import { useState } from 'react';
import type { MetadataRow } from '@pagina/core/emend';
import { Button } from '@/ui/Button';
import { Menu } from '@/ui/Menu';
import { Text } from '@/ui/Text';
import { useEbook, useSnapshot } from './context';
import { OtherFiles } from './OtherFiles';
import { Sheet } from './Sheet';

/** Names of the metadata in words (Dublin Core, EPUB 3.3 §5.5, EPUB Accessibility 1.1 §2, schema.org). */
const NAMES: Record<string, string> = {
  'dc:title': 'Title',
  'dc:creator': 'Author',
  'dc:contributor': 'Contributor',
  'dc:language': 'Language',
  'dc:identifier': 'Identifier',
  'dc:publisher': 'Publisher',
  'dc:date': 'Date of publication',
  'dc:description': 'Description',
  'dc:subject': 'Subject',
  'dc:rights': 'Rights',
  'dc:source': 'Source',
  'dcterms:modified': 'Last modified',
  'schema:accessMode': 'Mode of access',
  'schema:accessModeSufficient': 'Sufficient modes',
  'schema:accessibilityFeature': 'Accessibility feature',
  'schema:accessibilityHazard': 'Hazard',
  'schema:accessibilitySummary': 'Accessibility summary',
  'dcterms:conformsTo': 'Conforms to',
  'a11y:certifiedBy': 'Certified by',
  'belongs-to-collection': 'Series or collection',
  'rendition:layout': 'Layout',
  'rendition:orientation': 'Orientation',
  'rendition:spread': 'Spreads',
};
const REFINES: Record<string, string> = {
  'file-as': 'Sorted as',
  role: 'Role',
  'title-type': 'Title type',
  'display-seq': 'Order',
  'group-position': 'Number in the series',
  'collection-type': 'Collection type',
  'identifier-type': 'Identifier type',
  scheme: 'Scheme',
  'alternate-script': 'In another script',
};
const ADDED = [
  'dc:creator',
  'dc:contributor',
  'dc:publisher',
  'dc:date',
  'dc:description',
  'dc:subject',
  'dc:rights',
  'dc:language',
  'dc:identifier',
  'schema:accessMode',
  'schema:accessModeSufficient',
  'schema:accessibilityFeature',
  'schema:accessibilityHazard',
  'schema:accessibilitySummary',
];
/** What an author’s or contributor’s line can be refined by where nothing is said yet. */
const PEOPLE = ['file-as', 'role'];
const LONG = /description|rights|Summary/;

const named = (name: string): string => NAMES[name] ?? name;

export function PackageSheet() {
  const { run } = useEbook();
  const { view } = useSnapshot();
  /** A line that is in the package as soon as something is written in it. */
  const [begun, setBegun] = useState<string | null>(null);
  const older = view.version.startsWith('2');
  return (
    <Sheet
      name="Package"
      source={view.packagePath}
      tools={
        <Menu
          label="Add"
          items={ADDED.filter((n) => !older || n.startsWith('dc:')).map((name) => ({
            name: named(name),
            run: () => setBegun(name),
          }))}
        />
      }
    >
      {view.packagePath === '' ? (
        <p role="alert">
          The container names no package document that can be read, so there is nothing to show.
        </p>
      ) : view.metadata.length === 0 ? (
        <p role="alert">The package can’t be read. Its source tells why: the fault is marked at its line.</p>
      ) : (
        <div className="max-w-[880px]">
          <p className="mb-3 text-ink-soft">
            EPUB {view.version || 'of no stated version'}
            {view.direction === 'rtl' ? ', read from right to left' : ''}. Anything you don’t change here
            stays as it was written.
          </p>
          <div className="border-t border-rule">
            {view.metadata.map((row) => (
              <Line key={`${row.at} ${row.name}`} row={row} />
            ))}
            {begun === null ? null : (
              <div className="grid grid-cols-[200px_1fr_auto] items-start gap-x-3 border-b border-rule py-1.5">
                <span className="pt-1.5">{named(begun)}</span>
                <Text
                  aria-label={`New: ${named(begun)}`}
                  autoFocus
                  value=""
                  {...(LONG.test(begun) ? { area: 3 } : {})}
                  onCommit={(value) => {
                    setBegun(null);
                    if (value) void run({ type: 'metadata', change: { do: 'add', name: begun, value } });
                  }}
                />
                <Button kind="quiet" className="h-8 px-2" onClick={() => setBegun(null)}>
                  Cancel
                </Button>
              </div>
            )}
          </div>
        </div>
      )}
      <OtherFiles />
    </Sheet>
  );
}

function Line({ row }: { row: MetadataRow }) {
  const { run } = useEbook();
  const { view } = useSnapshot();
  const name = named(row.name);
  const person = /creator|contributor/.test(row.name);
  const refines = [
    ...row.refines,
    ...(person
      ? PEOPLE.filter((p) => !row.refines.some((r) => r.name === p)).map((p) => ({
          at: -1,
          name: p,
          value: '',
        }))
      : []),
  ];
  const refine = (key: string, value: string): void =>
    void run({ type: 'metadata', change: { do: 'refine', at: row.at, name: key, value } });
  return (
    <div className="grid grid-cols-[200px_1fr_auto] items-start gap-x-3 border-b border-rule py-1.5">
      <span className="pt-1.5">
        {name}
        {NAMES[row.name] ? <span className="block text-[12px] text-ink-soft">{row.name}</span> : null}
      </span>
      <span>
        <Text
          aria-label={name}
          value={row.value}
          {...(LONG.test(row.name) ? { area: 3 } : {})}
          onCommit={(value) => void run({ type: 'metadata', change: { do: 'set', at: row.at, value } })}
        />
        {refines.length > 0 ? (
          <span className="mt-1 flex flex-wrap gap-x-3 gap-y-1">
            {refines.map((r) => (
              <label key={r.name} className="flex items-center gap-1.5 text-[13px] text-ink-soft">
                {REFINES[r.name] ?? r.name}
                <span className="w-36">
                  <Text
                    aria-label={`${REFINES[r.name] ?? r.name} of ${row.value}`}
                    value={r.value}
                    onCommit={(value) => refine(r.name, value)}
                  />
                </span>
              </label>
            ))}
          </span>
        ) : null}
      </span>
      <Button
        kind="quiet"
        className="h-8 px-2"
        aria-label={`Remove ${name}`}
        disabled={
          view.metadata.filter((m) => m.name === row.name).length === 1 &&
          /title|language|identifier/.test(row.name)
        }
        onClick={() => void run({ type: 'metadata', change: { do: 'remove', at: row.at } })}
      >
        Remove
      </Button>
    </div>
  );
}
