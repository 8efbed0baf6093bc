import type { SlipKind } from '../api/client';

/** Our own marks, drawn after printers' and editors' signs. */
const paths: Record<SlipKind | 'claim' | 'source' | 'piece' | 'topic' | 'day', string> = {
  idea: 'M8 1.5v13M2.4 4.7l11.2 6.6M13.6 4.7 2.4 11.3',
  quote: 'M3 10.5c0-3 1-5 3.2-6.3M3 10.5a1.7 1.7 0 1 0 1.7-1.7M9.3 10.5c0-3 1-5 3.2-6.3M9.3 10.5A1.7 1.7 0 1 0 11 8.8',
  question: 'M5 5.2C5 3.2 6.3 2 8 2s3 1.100 3 2.800c0 2.200-3 2.600-3 5M8 12.700v1.300',
  takeaway: 'M2 8h9.500M8.200 4.500 11.700 8l-3.500 3.500M14 3v10',
  note: 'M3 4h10M3 8h10M3 12h6',
  claim: 'M3 2.500v11M3 8h10',
  ask: 'M2.500 9.500h5.200l1.800 2h4M2.500 6.500h5l2.500-2.800M7.700 9.500l5.800-4',
  source:
    'M8 4C6.500 2.900 4.500 2.600 2.300 3v9.500c2.200-.400 4.200-.100 5.700 1 1.500-1.100 3.500-1.400 5.700-1V3C11.500 2.600 9.500 2.900 8 4v9.500',
  piece: 'M3.500 2h9v12h-9zM6 5.500h4M6 8h4M6 10.500h2.500',
  topic: 'M5.500 2.500l-1.200 11M11.500 2.500l-1.200 11M2.800 6h11M2.200 10h11',
  day: 'M2.500 4h11v9.500h-11zM2.500 7h11M5.500 2v3M10.500 2v3',
};

export type MarkKind = keyof typeof paths;

export function Mark({ kind, size = 16 }: { kind: MarkKind; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 16 16" role="img" aria-label={kind} className="shrink-0">
      <path
        d={paths[kind]}
        fill="none"
        stroke="currentColor"
        strokeWidth="1.3"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  );
}
