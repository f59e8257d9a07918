/** Figures as people read them; every number carries its unit. */
export function seconds(value: number): string {
  if (value < 60) return `${value.toFixed(value < 10 ? 2 : 1)} s`;
  const whole = Math.round(value);
  return `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`;
}

export function bytes(value: number): string {
  if (value < 1e6) return `${Math.max(1, Math.round(value / 1e3))} kB`;
  if (value < 1e9) return `${(value / 1e6).toFixed(1)} MB`;
  return `${(value / 1e9).toFixed(2)} GB`;
}

export function rate(value: number): string {
  return `${Number(value.toFixed(2))} frames/s`;
}

export function plural(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}
