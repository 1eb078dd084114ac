/** Thirds, centre, and the safe area at 90 %. Never part of an export. */
export function Guides({ thirds, centre, safe }: { thirds: boolean; centre: boolean; safe: boolean }) {
  const lines = [...(thirds ? [100 / 3, 200 / 3] : [])];
  return (
    <svg className="absolute inset-0 h-full w-full" viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true">
      <g stroke="#F4F0E6" strokeOpacity="0.32" fill="none" strokeWidth="1">
        {lines.map((at) => (
          <g key={at}>
            <line x1={at} x2={at} y1="0" y2="100" vectorEffect="non-scaling-stroke" />
            <line y1={at} y2={at} x1="0" x2="100" vectorEffect="non-scaling-stroke" />
          </g>
        ))}
        {centre && (
          <g strokeOpacity="0.6">
            <line x1="48" x2="52" y1="50" y2="50" vectorEffect="non-scaling-stroke" />
            <line x1="50" x2="50" y1="46.5" y2="53.5" vectorEffect="non-scaling-stroke" />
          </g>
        )}
        {safe && <rect x="5" y="5" width="90" height="90" vectorEffect="non-scaling-stroke" strokeOpacity="0.2" />}
      </g>
    </svg>
  );
}
