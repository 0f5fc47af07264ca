'use client';

import ChevronDown from 'lucide-react/icons/chevron-down';
import { memo } from 'react';
import { toast } from 'sonner';
import { stillOfClimb } from '@/climb/still';
import { designFileName, downloadBlob, downloadDesign, downloadText } from '@/client/design-file';
import { downloadReport } from '@/client/sheet-file';
import { netlistOf } from '@/core/exchange/netlist';
import { predict, WITHOUT_OPTIMUM } from '@/core/predict/predict';
import type { Waveforms } from '@/core/transient/measure';
import { EntryMenu, type MenuEntry } from '@/ui/entry-menu';
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
  const entries: MenuEntry[] = [
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
      isReady: waveforms !== null,
    },
    { name: 'Report', gives: 'every figure in words, Markdown', run: asReport },
    { name: 'Netlist', gives: 'for circuit solvers, text', run: asNetlist },
    { name: 'Picture', gives: 'the Climb as it stands, SVG', run: asSvg },
    { name: 'Picture in points', gives: 'the Climb as it stands, PNG', run: () => void asPng() },
    { name: 'Print…', gives: 'this page', run: () => setTimeout(() => window.print(), 0) },
  ];
  return (
    <EntryMenu entries={entries}>
      Export <ChevronDown className="size-3.5" aria-hidden="true" />
    </EntryMenu>
  );
});
