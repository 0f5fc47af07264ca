'use client';

import ChevronDown from 'lucide-react/icons/chevron-down';
import { DropdownMenu } from 'radix-ui';
import { memo } from 'react';
import { toast } from 'sonner';
import { stillOfClimb } from '@/climb/still';
import { designFileName, downloadBlob, downloadDesign, downloadText } from '@/client/design-file';
import { downloadReport } from '@/client/sheet-file';
import { netlistOf } from '@/core/exchange/netlist';
import { predict, WITHOUT_OPTIMUM } from '@/core/predict/predict';
import type { Waveforms } from '@/core/transient/measure';
import { buttonStyle } from '@/ui/button';
import { pngOf } from '@/ui/still';
import { useCounting } from '@/ui/use-counting';
import { downloadWaveforms } from './charts/waveforms-file';
import type { EditorStore } from './saving/editor-store';

/** What can be taken away of a design, each with the file it gives. */
export const ExportMenu = memo(function ExportMenu({
  store,
  waveforms,
}: {
  store: EditorStore;
  /** Null until the time domain is ready. */
  waveforms: Waveforms | null;
}) {
  const { counting } = useCounting();
  const present = () => store.getState().design;
  const fileName = (ending: string) => designFileName(present().name, ending);
  const still = () => {
    const picture = stillOfClimb(present().name);
    if (!picture) toast.error('There is no Climb on screen to make a picture of.');
    return picture;
  };
  const asNetlist = () => {
    const netlist = netlistOf(present());
    if (netlist.ok) downloadText(fileName('cir'), 'text/plain', netlist.text);
    else toast.error(`There is no netlist of this design: ${netlist.reason}.`);
  };
  const asReport = () => {
    const design = present();
    downloadReport(design, predict(design), counting);
  };
  const asSvg = () => {
    const picture = still();
    if (picture) downloadText(fileName('climb.svg'), 'image/svg+xml', picture.svg);
  };
  const asPng = async () => {
    const picture = still();
    if (!picture) return;
    try {
      downloadBlob(fileName('climb.png'), await pngOf(picture));
    } catch {
      toast.error('The picture could not be made here; take the SVG instead.');
    }
  };
  const entries: { name: string; gives: string; run: () => void; ready?: boolean }[] = [
    { name: 'Design', gives: 'to open here again', run: () => downloadDesign(present()) },
    {
      name: 'Prediction',
      gives: 'every figure, JSON',
      run: () =>
        downloadText(
          fileName('prediction.json'),
          'application/json',
          `${JSON.stringify(predict(present()), null, 2)}\n`,
        ),
    },
    {
      name: 'Waveforms',
      gives: waveforms ? 'one period, CSV' : 'when the time domain is ready',
      run: () => waveforms && downloadWaveforms(predict(present(), WITHOUT_OPTIMUM), waveforms),
      ready: waveforms !== null,
    },
    { name: 'Report', gives: 'every figure in words, Markdown', run: asReport },
    { name: 'Netlist', gives: 'for circuit solvers, text', run: asNetlist },
    { name: 'Picture', gives: 'the Climb as it stands, SVG', run: asSvg },
    { name: 'Picture in points', gives: 'the Climb as it stands, PNG', run: () => void asPng() },
    { name: 'Print…', gives: 'this page', run: () => setTimeout(() => window.print(), 0) },
  ];
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className={buttonStyle('quiet')}>
        Export <ChevronDown className="size-3.5" aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-40 min-w-64 rounded-md border border-rule bg-sheet p-1 text-[13.5px]"
        >
          {entries.map(({ name, gives, run, ready = true }) => (
            <DropdownMenu.Item
              key={name}
              disabled={!ready}
              onSelect={run}
              className="flex cursor-pointer items-baseline justify-between gap-6 rounded px-2.5 py-1.5 outline-none data-[disabled]:cursor-not-allowed data-[disabled]:opacity-60 data-[highlighted]:bg-tint"
            >
              {name} <span className="text-xs text-soft">{gives}</span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
});
