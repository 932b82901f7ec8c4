/** Where the sheet is cut and folded, and where words are safe. */
import type { CoverGeometry } from '@pagina/core/cover';

export function Guides({ geometry: g }: { geometry: CoverGeometry }) {
  const rect = (b: CoverGeometry['trim'], className: string, dashed = false) => (
    <rect
      x={b.x}
      y={b.y}
      width={b.width}
      height={b.height}
      fill="none"
      className={className}
      strokeWidth={1}
      strokeDasharray={dashed ? '4 3' : undefined}
      vectorEffect="non-scaling-stroke"
    />
  );
  const folds = [g.spine.x, g.spine.x + g.spine.width];
  return (
    <svg
      viewBox={`0 0 ${g.width} ${g.height}`}
      className="pointer-events-none absolute inset-0 h-full w-full"
      role="img"
      aria-label="Cut, folds and safe areas"
      data-guides
    >
      {rect(g.trim, 'stroke-white')}
      {rect(g.trim, 'stroke-ink', true)}
      {folds.map((x) => (
        <line
          key={x}
          x1={x}
          x2={x}
          y1={0}
          y2={g.height}
          className="stroke-rubric"
          strokeWidth={1}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {[g.safe.back, g.safe.front, ...(g.safe.spine ? [g.safe.spine] : [])].map((b, i) => (
        <g key={i}>
          {rect(b, 'stroke-white/60')}
          {rect(b, 'stroke-spruce', true)}
        </g>
      ))}
    </svg>
  );
}
