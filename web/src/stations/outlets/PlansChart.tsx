'use client';
/** What a sale brings under each plan, by the size of the file. */
import { Chart, Legend, LinearScale, LineElement, PointElement, Tooltip, type ChartOptions } from 'chart.js';
import { useMemo } from 'react';
import { Line } from 'react-chartjs-2';
import { exponentOf, type Money } from '@pagina/core/base';
import { sumString } from '@pagina/core/outlets';
import { saleUnder, type Plan } from '@pagina/core/trade';

Chart.register(LineElement, PointElement, LinearScale, Tooltip, Legend);

const STEPS = 40;
const DASHES: number[][] = [[], [6, 4], [2, 3]];
const token = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(name).trim();

export default function PlansChart({
  plans,
  price,
  size,
  equal,
  label,
}: {
  plans: readonly Plan[];
  price: Money;
  size: number;
  /** Megabytes at which two plans bring the same; null for none. */
  equal: number | null;
  label: string;
}) {
  const { currency } = price;
  const data = useMemo(() => {
    const most = Math.min(Math.max(20e6, size * 2, (equal ?? 0) * 1.25e6), 1e9);
    const colours = [token('--color-spruce'), token('--color-rubric'), token('--color-ochre')];
    const at = (plan: Plan, bytes: number): number =>
      (saleUnder(plan, {
        list: price,
        territory: '',
        tax: { rate: 0, included: false },
        size: bytes,
        printing: 0,
      })?.author ?? 0) /
      10 ** exponentOf(currency);
    return {
      datasets: plans.map((plan, i) => ({
        label: plan.name,
        data: Array.from({ length: STEPS + 1 }, (_, n) => {
          const bytes = Math.round((most * n) / STEPS);
          return { x: bytes / 1e6, y: at(plan, bytes) };
        }),
        borderColor: colours[i % colours.length],
        borderDash: DASHES[i % DASHES.length],
        borderWidth: 1.5,
        pointRadius: 0,
      })),
    };
  }, [plans, price, size, equal, currency]);
  const options = useMemo((): ChartOptions<'line'> => {
    const font = { family: getComputedStyle(document.body).fontFamily, size: 12 };
    const ink = token('--color-ink-soft');
    const rule = token('--color-rule');
    const axis = { ticks: { color: ink, font }, grid: { color: rule } };
    return {
      font,
      animation: false,
      responsive: true,
      maintainAspectRatio: false,
      scales: {
        x: { type: 'linear', ...axis, title: { display: true, text: 'Megabytes', color: ink, font } },
        y: {
          ...axis,
          beginAtZero: true,
          ticks: {
            color: ink,
            font,
            maxTicksLimit: 5,
            callback: (v) => sumString(Number(v) * 10 ** exponentOf(currency), currency),
          },
        },
      },
      plugins: {
        legend: { labels: { color: ink, font, boxWidth: 24, boxHeight: 1 } },
        tooltip: { enabled: false },
      },
    };
  }, [currency]);
  return (
    <div className="mt-2 h-40">
      <Line data={data} options={options} aria-label={label} role="img" />
    </div>
  );
}
