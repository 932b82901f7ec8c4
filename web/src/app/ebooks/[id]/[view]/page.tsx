import dynamic from 'next/dynamic';
import { notFound } from 'next/navigation';
import type { ViewKey } from '@/emend/views';

/** Each with its own program, so that one opens without the others. */
const SHEETS = {
  documents: dynamic(() => import('@/emend/Documents').then((m) => m.Documents)),
  package: dynamic(() => import('@/emend/PackageSheet').then((m) => m.PackageSheet)),
  navigation: dynamic(() => import('@/emend/NavigationSheet').then((m) => m.NavigationSheet)),
  styles: dynamic(() => import('@/emend/StylesSheet').then((m) => m.StylesSheet)),
  pictures: dynamic(() => import('@/emend/PicturesSheet').then((m) => m.PicturesSheet)),
  typefaces: dynamic(() => import('@/emend/TypefacesSheet').then((m) => m.TypefacesSheet)),
  findings: dynamic(() => import('@/emend/FindingsSheet').then((m) => m.FindingsSheet)),
} as const satisfies Record<ViewKey, unknown>;

export default async function Page({ params }: { params: Promise<{ id: string; view: string }> }) {
  const { view } = await params;
  const Sheet = SHEETS[view as ViewKey];
  if (!Sheet) notFound();
  return <Sheet />;
}
