/** Where nothing is yet: hits as they would stand, pale, one of them leaning. */
export function EmptyPicture({ className = '' }: { className?: string }) {
  return (
    <svg width={112} height={38} viewBox="0 0 112 38" aria-hidden="true" className={className}>
      <line x1={2} x2={110} y1={34} y2={34} className="stroke-strong" strokeWidth={0.8} />
      {HITS.map(({ x, lean, height }) => (
        <g key={x} className={lean === 0 ? 'fill-pale stroke-pale' : 'fill-accent stroke-accent'}>
          <line x1={x} x2={x + lean} y1={34} y2={34 - height} strokeWidth={1.6} />
          <circle cx={x + lean} cy={34 - height} r={3} stroke="none" />
        </g>
      ))}
    </svg>
  );
}

const HITS = [
  { x: 12, lean: 0, height: 24 },
  { x: 34, lean: 0, height: 16 },
  { x: 56, lean: 6, height: 26 },
  { x: 78, lean: 0, height: 16 },
  { x: 100, lean: 0, height: 24 },
] as const;
