import dynamic from 'next/dynamic';
import { notFound } from 'next/navigation';

/** Each with its own program, so that one opens without the others. */
const STATIONS = {
  order: dynamic(() => import('@/stations/order/RunningOrder').then((m) => m.RunningOrder)),
  manuscript: dynamic(() => import('@/stations/manuscript/Manuscript').then((m) => m.Manuscript)),
  /** A view of the manuscript: what is laid out page by page. */
  pages: dynamic(() => import('@/stations/pages/PicturePages').then((m) => m.PicturePages)),
  design: dynamic(() => import('@/stations/design/DesignStation').then((m) => m.DesignStation)),
  proof: dynamic(() => import('@/stations/proof/Proof').then((m) => m.Proof)),
  record: dynamic(() => import('@/stations/record/RecordSheet').then((m) => m.RecordSheet)),
  editions: dynamic(() => import('@/stations/editions/Editions').then((m) => m.Editions)),
  /** All that was found, wherever it is mended. */
  findings: dynamic(() => import('@/stations/findings/Findings').then((m) => m.Findings)),
  outlets: dynamic(() => import('@/stations/outlets/Outlets').then((m) => m.Outlets)),
} as const;

export default async function Page({ params }: { params: Promise<{ id: string; station: string }> }) {
  const { station } = await params;
  const Station = STATIONS[station as keyof typeof STATIONS];
  if (!Station) notFound();
  return <Station />;
}
