import { notFound } from 'next/navigation';
import { DesignStation } from '@/stations/design/DesignStation';
import { Editions } from '@/stations/editions/Editions';
import { Manuscript } from '@/stations/manuscript/Manuscript';
import { RunningOrder } from '@/stations/order/RunningOrder';
import { Outlets } from '@/stations/outlets/Outlets';
import { Proof } from '@/stations/proof/Proof';
import { RecordSheet } from '@/stations/record/RecordSheet';

const STATIONS = {
  order: RunningOrder,
  manuscript: Manuscript,
  design: DesignStation,
  proof: Proof,
  record: RecordSheet,
  editions: Editions,
  outlets: Outlets,
} as const;

export default async function Page({ params }: { params: Promise<{ id: string; station: string }> }) {
  const { station } = await params;
  const Station = STATIONS[station as keyof typeof STATIONS];
  if (!Station) notFound();
  return <Station />;
}
