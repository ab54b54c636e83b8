import { kindOf } from '@carafe/core/template';

/** The icon of a kind of node, as its kind says it. */
export function KindIcon({
  kind,
  size = 16,
  className,
}: {
  kind: string;
  size?: number;
  className?: string | undefined;
}) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 24 24"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.8}
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden
      {...(className && { className })}
    >
      <path d={kindOf({ kind }).icon} />
    </svg>
  );
}
