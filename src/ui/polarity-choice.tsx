import type { Polarity } from '@/core/quantity/polarity';
import { Choice } from './choice';

/** Which way the output stands from ground. */
export function PolarityChoice({ value, onValue }: { value: Polarity; onValue: (polarity: Polarity) => void }) {
  return (
    <Choice
      label="Polarity"
      value={value}
      options={[
        { value: 'positive', name: 'Positive' },
        { value: 'negative', name: 'Negative' },
      ]}
      onValue={onValue}
    />
  );
}
