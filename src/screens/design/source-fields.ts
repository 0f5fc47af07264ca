import type { Driver, DriverKind, Supply } from '@/core/design/driver-schema';
import { quantityField, type FieldDescription } from '@/core/quantity/field-description';

const quantity = quantityField;

export const DRIVER_NAMES: Record<DriverKind, string> = {
  measured: 'Measured waveform',
  mains: 'Mains transformer',
  'resonant-push-pull': 'Resonant push-pull',
  flyback: 'Flyback, one switch',
  'blocking-oscillator': 'Blocking oscillator',
  inverter: 'Inverter',
  module: 'Bought module',
  'capacitor-discharge': 'Capacitor discharge',
};

export const SUPPLY_NAMES: Record<Supply['kind'], string> = {
  battery: 'Battery',
  dc: 'Bench supply or adapter',
  'smoothed-mains': 'Mains, rectified and smoothed',
  mains: 'Mains',
};

const DIMMED = quantity('dimmedDegrees', 'Dimmer cuts, degrees', '', {
  more: true,
  hint: 'Of each half period of 180; 0 without one.',
});
const SETTING = quantity('setting', 'Variable transformer at', '%', {
  hint: '100 % without one.',
});

export const SUPPLY_FIELDS: Record<Supply['kind'], readonly FieldDescription[]> = {
  battery: [
    quantity('cells', 'Cells in series', ''),
    quantity('voltsEach', 'Each, dc', 'V'),
    quantity('ohmsEach', 'Resistance of each', 'Ω'),
    quantity('ampHours', 'Charge, ampere-hours', '', { optional: true }),
  ],
  dc: [
    quantity('volts', 'Voltage, dc', 'V'),
    quantity('maxAmps', 'Current limit', 'A', { optional: true }),
    quantity('seriesOhms', 'Resistance with leads', 'Ω'),
  ],
  'smoothed-mains': [
    quantity('secondaryVolts', 'Winding before the bridge, RMS', 'V'),
    SETTING,
    quantity('smoothingFarads', 'Smoothing capacitor', 'F'),
    quantity('seriesOhms', 'Winding resistance', 'Ω'),
    quantity('maxAmps', 'Current limit', 'A', { optional: true }),
    quantity('hertz', 'Mains frequency', 'Hz', { more: true }),
    quantity('bridgeVolts', 'Bridge drops', 'V', { more: true }),
    DIMMED,
    { as: 'yes', name: 'isolated', label: 'Winding isolated from the line', more: true },
  ],
  mains: [
    quantity('volts', 'Mains, RMS', 'V'),
    quantity('hertz', 'Mains frequency', 'Hz'),
    SETTING,
    { as: 'yes', name: 'isolated', label: 'Isolated from the line' },
    DIMMED,
  ],
};

const RATED = quantity('ratedVolts', 'Transistor rated', 'V', { optional: true });
const RATED_AMPS = quantity('ratedAmps', 'Transistor rated, continuous', 'A', { optional: true, more: true });
const EFFICIENCY = quantity('efficiency', 'Efficiency, guessed', '%', {
  more: true,
  hint: 'Of driver and transformer together; measure it if you can.',
});

export const DRIVER_FIELDS: Record<Exclude<Driver['kind'], 'measured'>, readonly FieldDescription[]> = {
  mains: [
    {
      as: 'choice',
      name: 'style',
      label: 'Style',
      options: [
        { value: 'plain', name: 'Plain' },
        { value: 'current-limited', name: 'Limited' },
        { value: 'oven', name: 'Oven' },
        { value: 'direct', name: 'None' },
      ],
      hint: 'Limited: ignition and sign types. None: straight from the line.',
    },
    quantity('secondaryVolts', 'Secondary without load, RMS', 'V'),
    quantity('shortAmps', 'Into a short, RMS', 'A', { optional: true, hint: 'Or its volt-amperes over its volts.' }),
    quantity('secondaryOhms', 'Secondary resistance', 'Ω'),
    quantity('count', 'How many', '', { more: true, hint: 'Primaries in parallel, secondaries in series.' }),
    quantity('magnetisingAmps', 'Primary without load, RMS', 'A', { optional: true, more: true }),
  ],
  'resonant-push-pull': [
    quantity('tankFarads', 'Tank capacitor, each', 'F'),
    RATED,
    RATED_AMPS,
    quantity('chokeHenries', 'Choke', 'H'),
    quantity('gateOhms', 'Gate resistors, each', 'Ω'),
    quantity('gateResistorWatts', 'Their rating', 'W'),
    quantity('tankSeries', 'Tank capacitors in series', '', { more: true }),
    quantity('tankParallel', 'Such strings side by side', '', { more: true }),
    quantity('tankRatedVolts', 'Each rated, peak', 'V', { optional: true, more: true }),
    quantity('tankRatedAmps', 'Each rated, RMS', 'A', { optional: true, more: true }),
    quantity('overshoot', 'Edges overshoot by', '%', { more: true }),
    quantity('chokeSaturationAmps', 'Choke saturates at', 'A', { optional: true, more: true }),
    quantity('transistorOhms', 'On-resistance', 'Ω', { more: true }),
    quantity('zenerVolts', 'Gate zener', 'V', { more: true }),
    quantity('pullDownOhms', 'Gate pull-down', 'Ω', { more: true }),
    quantity('gateThresholdVolts', 'Gate threshold', 'V', { more: true }),
    EFFICIENCY,
  ],
  flyback: [
    quantity('frequencyHertz', 'Frequency', 'Hz'),
    quantity('duty', 'On, of each period', '%'),
    RATED,
    RATED_AMPS,
    quantity('clampVolts', 'Clamp holds the switch at', 'V', { optional: true }),
    quantity('switchFarads', 'Switch capacitance', 'F', { more: true }),
    EFFICIENCY,
  ],
  'blocking-oscillator': [
    quantity('feedbackTurns', 'Feedback turns', ''),
    quantity('baseOhms', 'Base resistor', 'Ω'),
    quantity('currentGain', 'Current gain', ''),
    RATED,
    RATED_AMPS,
    quantity('frequencyHertz', 'Frequency, measured', 'Hz', {
      optional: true,
      hint: 'Estimated while it is not known.',
    }),
    EFFICIENCY,
  ],
  inverter: [
    {
      as: 'choice',
      name: 'bridge',
      label: 'Switches',
      options: [
        { value: 'half', name: 'Half bridge' },
        { value: 'full', name: 'Full bridge' },
        { value: 'push-pull', name: 'Push-pull' },
      ],
    },
    quantity('frequencyHertz', 'Frequency', 'Hz'),
    RATED,
    RATED_AMPS,
    quantity('deadSeconds', 'Dead time', 's', { more: true }),
    quantity('blockingFarads', 'Blocking capacitor', 'F', { optional: true, more: true }),
    quantity('transistorOhms', 'On-resistance', 'Ω', { more: true }),
    EFFICIENCY,
  ],
  module: [
    {
      as: 'choice',
      name: 'waveform',
      label: 'Waveform',
      options: [
        { value: 'sine', name: 'Sine' },
        { value: 'square', name: 'Square' },
      ],
    },
    quantity('openVolts', 'Without load, peak', 'V'),
    quantity('frequencyHertz', 'Frequency', 'Hz'),
    quantity('maxAmps', 'Current limit, RMS', 'A', { optional: true }),
    quantity('maxWatts', 'Power limit', 'W', { optional: true }),
    quantity('seriesOhms', 'Source resistance', 'Ω'),
    { as: 'text', name: 'startNote', label: 'How it starts', more: true },
    { as: 'yes', name: 'heatSinkLive', label: 'Heat sink live', more: true },
  ],
  'capacitor-discharge': [
    quantity('storeFarads', 'Store', 'F'),
    quantity('storeVolts', 'Charged to, dc', 'V'),
    quantity('chargerWatts', 'Charger gives', 'W'),
    quantity('shotsPerSecond', 'Shots a second', 'Hz', {
      optional: true,
      hint: 'As fast as the charger can while it is not set.',
    }),
    quantity('ringFraction', 'Second peak of the ringing', '%', { more: true }),
    EFFICIENCY,
  ],
};

export const TRANSFORMER_FIELDS: readonly FieldDescription[] = [
  quantity('primaryTurns', 'Primary turns, end to end', ''),
  quantity('secondaryTurns', 'Secondary turns', ''),
  quantity('primaryHenries', 'Primary inductance, end to end', 'H', { optional: true }),
  quantity('secondaryOhms', 'Secondary resistance', 'Ω'),
  quantity('coreSquareMetres', 'Core area, mm²', '', { optional: true, shownIn: 1e-6 }),
  quantity('saturationTesla', 'Core saturates at, mT', '', { shownIn: 1e-3 }),
  quantity('coupling', 'Coupling', '%', { more: true }),
  quantity('secondaryFarads', 'Secondary capacitance', 'F', {
    more: true,
    hint: 'Of the winding itself: usually 5p to 50p.',
  }),
  { as: 'yes', name: 'rectifierInside', label: 'Rectifier inside', more: true },
];
