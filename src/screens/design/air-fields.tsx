import { useAir } from '@/client/air-stores';
import { METRE } from '@/core/quantity/units';
import { More } from '@/ui/more';
import { QuantityField } from '@/ui/quantity-field';

/** The air in the workshop, which decides when it breaks down. */
export function AirFields() {
  const { settings: air, change } = useAir();
  return (
    <More words="Air">
      <QuantityField
        label="Temperature"
        unit="°C"
        value={air.celsius}
        onValue={(value) => change({ celsius: value! })}
      />
      <QuantityField
        label="Above the sea"
        unit="m"
        typedIn={METRE}
        value={air.altitudeMetres}
        onValue={(value) => change({ altitudeMetres: value! })}
      />
      <QuantityField
        label="Relative humidity"
        unit="%"
        value={air.relativeHumidity}
        onValue={(value) => change({ relativeHumidity: value! })}
      />
    </More>
  );
}

/** What of the entry above lies outside the law that is asked. */
export function OutsideLaw({ reason }: { reason: string }) {
  return (
    <p role="alert" className="text-xs text-over">
      {reason}
    </p>
  );
}
