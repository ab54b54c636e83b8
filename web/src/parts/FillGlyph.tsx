import { wordsOf } from '../words';

const t = wordsOf('parts');
/** A glass with a level: how often a field is filled, 0 to 1. The figure stands beside it or on hover. */
export function FillGlyph({ share, size = 14 }: { share: number; size?: number }) {
  const percent =
    share > 0 && share < 0.01
      ? '<1'
      : String(share < 1 ? Math.min(99, Math.round(share * 100)) : 100);
  const top = 14 - 11 * share;
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 16 16"
      role="img"
      aria-label={t('filledForPercent', { percent })}
    >
      <title>{t('filledForPercent2', { percent })}</title>
      {share > 0 && (
        <path
          d={`M${4.1 - 0.9 * ((14 - top) / 11)} ${top} H${11.9 + 0.9 * ((14 - top) / 11)} L11.7 14 H4.3 Z`}
          fill="var(--data)"
        />
      )}
      <path
        d="M2.600 1.500 L4.200 14.200 H11.800 L13.400 1.500"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.300"
        strokeLinejoin="round"
      />
    </svg>
  );
}
