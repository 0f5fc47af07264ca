/** A time as one counts it down: whole seconds, minutes from a hundred seconds on. */
export function timeWords(seconds: number): string {
  const whole = Math.ceil(seconds);
  if (whole < 100) return `${whole} s`;
  const rest = whole % 60;
  return `${Math.floor(whole / 60)} min${rest === 0 ? '' : ` ${rest} s`}`;
}
