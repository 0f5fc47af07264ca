import { useMemo } from 'react';
import { encode } from 'uqr';

/** Light around it that scanners need, modules. */
const BORDER = 4;

/** A text as a code to scan, black on white in every theme. */
export function QrCode({ text, label }: { text: string; label: string }) {
  const { path, size } = useMemo(() => {
    const { data, size } = encode(text, { border: BORDER });
    const dark = data.flatMap((row, y) => row.flatMap((isDark, x) => (isDark ? [`M${x} ${y}h1v1h-1z`] : [])));
    return { path: dark.join(''), size };
  }, [text]);
  return (
    <svg viewBox={`0 0 ${size} ${size}`} role="img" aria-label={label} shapeRendering="crispEdges" className="w-full">
      <rect width={size} height={size} fill="#fff" />
      <path d={path} fill="#000" />
    </svg>
  );
}
