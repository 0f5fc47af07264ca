/** A function of rising times, straight between its values; the nearest stretch goes on beyond the ends. */
export function interpolator(times: ArrayLike<number>, values: ArrayLike<number>): (time: number) => number {
  return (time) => {
    let low = 0;
    let high = times.length - 1;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (times[middle] <= time) low = middle;
      else high = middle;
    }
    const span = times[high] - times[low];
    return span > 0 ? values[low] + ((values[high] - values[low]) * (time - times[low])) / span : values[low];
  };
}
