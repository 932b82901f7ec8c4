'use client';
/** The code of one who leads readers to an outlet: it goes into the links of the files made for it. */
import { toast } from 'sonner';
import { bookAddressAt, type Outlet } from '@pagina/core/outlets';
import { affiliateCode } from '@/forms/lines';
import { LineForm } from '@/ui/LineForm';

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
  const keep = async (affiliate: string): Promise<boolean> => {
    const r = await fetch('/api/outlets/accounts', {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ outlet: outlet.id, affiliate }),
    });
    if (!r.ok) toast(((await r.json()) as { message: string }).message);
    await onKept();
    return r.ok;
  };
  return (
    <LineForm
      className="mt-4"
      heading
      optional
      label={`Affiliate code at ${outlet.name}, if you have one`}
      schema={affiliateCode}
      value={code}
      action="Save"
      onSend={keep}
      hint={(line) =>
        `${used ? 'A book in this ebook is linked as' : 'A link to a book would be'} ${bookAddressAt(outlet, EXAMPLE, line.trim())}`
      }
    />
  );
}
