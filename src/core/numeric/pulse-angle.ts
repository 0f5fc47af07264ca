/** 1 - cos t without the loss of digits at small angles. */
export function oneLessCosine(angle: number): number {
  return 2 * Math.sin(angle / 2) ** 2;
}

/**
 * Half the angle over which a sine behind a resistance charges what holds its
 * voltage: sin t - t cos t = pulse for t in [0, pi/2]; null when no such pulse
 * delivers the charge.
 */
export function pulseHalfAngle(pulse: number): number | null {
  if (pulse === 0) return 0;
  if (pulse >= 1) return null;
  // sin t - t cos t = t^3 / 3 to 1e-5 here, where the difference itself would lose its digits.
  if (pulse < 1e-7) return Math.cbrt(3 * pulse);
  let angle = Math.min(Math.PI / 2, Math.cbrt(3 * pulse));
  for (let step = 0; step < 12; step += 1) {
    const correction = (Math.sin(angle) - angle * Math.cos(angle) - pulse) / (angle * Math.sin(angle));
    angle = Math.min(Math.PI / 2, Math.max(angle / 4, angle - correction));
    if (Math.abs(correction) < 1e-14) break;
  }
  return angle;
}
