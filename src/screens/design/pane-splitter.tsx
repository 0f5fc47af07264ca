'use client';

import { memo } from 'react';
import { Splitter } from '@/ui/splitter';
import { PANES, usePaneSizes, type Pane } from './use-pane-sizes';

/** The border between a pane and the Climb. */
export const PaneSplitter = memo(function PaneSplitter({
  pane,
  at,
  label,
}: {
  pane: Pane;
  at: 'left' | 'right' | 'below';
  label: string;
}) {
  const { sizes, setSize } = usePaneSizes();
  const { usual, least, most } = PANES[pane];
  return (
    <Splitter
      label={label}
      pane={at}
      size={sizes[pane]}
      least={least}
      most={most}
      onSize={(size) => setSize(pane, size)}
      onReset={() => setSize(pane, usual)}
    />
  );
});
