import { useTokens } from '../ui/theme';
import type { HelpSection } from './helpSections';

/** Small drawings of ours: what to do with paper, light and phone. Chapters without one have none. */
export function HelpDrawing({ section }: { section: HelpSection }) {
  const t = useTokens();
  const ink = { stroke: t.ink, strokeWidth: 2, fill: 'none', strokeLinejoin: 'round', strokeLinecap: 'round' } as const;
  const accent = { ...ink, stroke: t.wine } as const;
  const paper = { ...ink, fill: t.leaf } as const;
  const lines = (x: number, y: number, width: number, count: number) =>
    Array.from({ length: count }, (_, i) => <path key={i} d={`M${x} ${y + 8 * i}h${i === count - 1 ? width * 0.6 : width}`} stroke={t.pencil} strokeWidth={1.5} />); // prettier-ignore
  const drawing = {
    // The whole sheet within the picture, something dark under it, the light from the side.
    capture: (
      <>
        <rect x={20} y={10} width={150} height={90} fill={t.well} rx={4} />
        <path d="M62 22l62 -4 6 72 -70 4z" {...paper} />
        {lines(74, 38, 42, 5)}
        <path d="M56 16v-0h14M56 16v14M130 12h-14M131 12l1 14M54 100h14M54 100v-14M138 96h-14M138 96l-1 -14" {...accent} />
        <circle cx={206} cy={28} r={10} {...accent} />
        <path d="M192 36l-14 10M196 42l-10 14M190 28h-16" {...accent} strokeDasharray="3 4" />
      </>
    ),
    edges: (
      <>
        <path d="M40 20l130 8 10 76 -150 -4z" {...paper} />
        <path d="M40 20l130 8 10 76 -150 -4z" {...accent} strokeDasharray="7 6" />
        {[[40, 20], [170, 28], [180, 104], [30, 100]].map(([x, y]) => <circle key={x} cx={x} cy={y} r={7} fill={t.leaf} stroke={t.wine} strokeWidth={2} />)}
        <circle cx={206} cy={40} r={22} {...ink} />
        <path d="M196 30h20v20" {...accent} />
      </>
    ),
    pages: (
      <>
        {[20, 84, 148].map((x, i) => (
          <g key={x}>
            <rect x={x} y={i === 1 ? 8 : 20} width={52} height={72} {...paper} />
            {lines(x + 10, (i === 1 ? 8 : 20) + 16, 32, 5)}
          </g>
        ))}
        <path d="M110 88v16M104 98l6 7 6 -7" {...accent} />
      </>
    ),
    send: (
      <>
        <rect x={30} y={24} width={96} height={64} {...paper} />
        <path d="M30 24l48 36 48 -36" {...ink} />
        <path d="M140 56h36M166 46l11 10 -11 10" {...accent} />
        <circle cx={206} cy={56} r={20} fill="none" stroke={t.moss} strokeWidth={2} />
        <path d="M196 56l8 8 13 -15" fill="none" stroke={t.moss} strokeWidth={3} />
      </>
    ),
  } as Partial<Record<HelpSection, React.ReactNode>>; // prettier-ignore
  const its = drawing[section];
  return its ? (
    <svg viewBox="0 0 240 112" width={240} height={112} aria-hidden style={{ maxWidth: '100%' }}>
      {its}
    </svg>
  ) : null;
}
