'use client';
import { kindRule, SECTION_KINDS, type Matter, type SectionKind } from '@pagina/core/book';
import { Picker } from '@/ui/Picker';
import type { Choice } from '@/ui/Select';

const MATTERS: Record<Matter, string> = { front: 'Front matter', body: 'Body', back: 'Back matter' };
const CHOICES: readonly Choice<SectionKind>[] = (['front', 'body', 'back'] as const).flatMap((matter) =>
  SECTION_KINDS.filter((k) => kindRule(k).matter === matter).map((k) => ({
    value: k,
    name: kindRule(k).label,
    group: MATTERS[matter],
  })),
);

/** What a section is, chosen from all kinds by typing a part of the name. */
export function KindPicker(p: {
  label: string;
  kind: SectionKind | null;
  onKind: (kind: SectionKind) => void;
  placeholder?: string;
  disabled?: boolean;
  className?: string;
}) {
  return (
    <Picker
      label={p.label}
      value={p.kind}
      choices={CHOICES}
      onChoose={p.onKind}
      placeholder={p.placeholder}
      disabled={p.disabled}
      className={p.className}
    />
  );
}
