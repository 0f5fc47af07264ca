import Papa from 'papaparse';
import { designFileName, downloadText } from '@/client/design-file';
import type { Prediction } from '@/core/predict/prediction';
import type { Waveforms } from '@/core/transient/measure';
import { Traces } from '@/core/transient/traces';

/** Hands the waveforms of a settled period to the user as rows and columns. */
export function downloadWaveforms(prediction: Prediction, waveforms: Waveforms): void {
  downloadText(
    designFileName(prediction.name, 'waveforms.csv'),
    'text/csv',
    Papa.unparse(new Traces(prediction, waveforms).table(), { newline: '\n' }),
  );
}
