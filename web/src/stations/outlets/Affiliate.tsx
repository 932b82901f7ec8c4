'use client';
/** The code of one who leads readers to an outlet: it goes into the links of the files made for it. */
import { useState } from 'react';
import { toast } from 'sonner';
import { bookAddressAt, isAffiliateCode, type Outlet } from '@pagina/core/outlets';
import { Button, Field, input } from '@/ui/controls';

/** A number that no book has: ISBN Users' Manual's own example. */
const EXAMPLE = '9789295055124';

export function Affiliate({
  outlet,
  code,
  used,
  onKept,
}: {
  outlet: Outlet;
  code: string;
  /** The ebook links to books in a shop. */
  used: boolean;
  onKept: () => Promise<void>;
}) {
  const [value, setValue] = useState(code);
  const wrong = !isAffiliateCode(value.trim());
  const keep = async (): Promise<void> => {
    if (wrong || value.trim() === code) return;
    const r = await fetch('/api/outlets/accounts', {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ outlet: outlet.id, affiliate: value.trim() }),
    });
    if (!r.ok) toast(((await r.json()) as { message: string }).message);
    await onKept();
  };
  return (
    <form
      className="mt-4 flex items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        void keep();
      }}
    >
      <div className="flex-1">
        <Field
          label={`Affiliate code at ${outlet.name}, if you have one`}
          hint={
            wrong ? (
              <span className="text-rubric">Letters, figures, dots and dashes only, and no spaces.</span>
            ) : (
              `${used ? 'A book in this ebook is linked as' : 'A link to a book would be'} ${bookAddressAt(outlet, EXAMPLE, value.trim())}`
            )
          }
        >
          <input
            className={input}
            value={value}
            spellCheck={false}
            aria-invalid={wrong || undefined}
            onChange={(e) => setValue(e.target.value)}
          />
        </Field>
      </div>
      <Button type="submit" className="mb-6" disabled={wrong || value.trim() === code}>
        Save
      </Button>
    </form>
  );
}
