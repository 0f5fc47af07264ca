/**
 * Mean droop of half-wave ladders behind a source resistance by ideal-diode
 * integration, V = 1, f = 1, C = 1: [stages, x, Rs over R_out, droop].
 */
export const DROOPS_BEHIND_RESISTANCE: [number, number, number, number][] = [
  [1, 0.03, 0.1, 0.15596],
  [1, 0.1, 0.01, 0.19656],
  [2, 0.03, 0.01, 0.19543],
  [2, 0.1, 0.1, 1.65671],
  [1.5, 0.1, 0.1, 0.91785],
  [3, 0.1, 0.01, 1.0756],
];
