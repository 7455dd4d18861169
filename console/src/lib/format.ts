const NUMBER = new Intl.NumberFormat('en');

/** A number with thousands separators. */
export function number(value: number): string {
  return NUMBER.format(value);
}

/** An exact number, which comes as text, with thousands separators before its point. */
export function decimal(figure: string): string {
  const [whole = '', fraction] = figure.split('.');
  return whole.replace(/\B(?=(\d{3})+$)/g, ',') + (fraction === undefined ? '' : `.${fraction}`);
}

/** "1 row", "2 rows". */
export function count(value: number, one: string, several = `${one}s`): string {
  return `${number(value)} ${value === 1 ? one : several}`;
}

/** A time in the reader's zone and locale; today without its date. */
export function moment(iso: string, now = new Date()): string {
  const time = new Date(iso);
  return time.toDateString() === now.toDateString() ? `${clock(time)} today` : dated(iso);
}

/** A time that is still understood tomorrow, for paper. */
export function dated(iso: string): string {
  const time = new Date(iso);
  return `${time.toLocaleDateString([], { day: 'numeric', month: 'short', year: 'numeric' })} ${clock(time)}`;
}

function clock(time: Date): string {
  return time.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });
}

/** How long something took. */
export function duration(from?: string, to?: string): string {
  if (!from || !to) {
    return '';
  }
  const seconds = (Date.parse(to) - Date.parse(from)) / 1000;
  return seconds < 60 ? `${seconds.toFixed(1)} s` : `${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s`;
}

/** Bytes for people. */
export function bytes(size: number): string {
  if (size < 1024) {
    return `${size} B`;
  }
  const megabytes = size / 1024 / 1024;
  if (megabytes < 1) {
    return `${(size / 1024).toFixed(1)} kB`;
  }
  return megabytes < 1024 ? `${megabytes.toFixed(1)} MB` : `${(megabytes / 1024).toFixed(1)} GB`;
}

/** How fast rows go through, and how long all of them will take. */
export function pace(now: { rate: number; secondsLeft?: number }): string {
  const rate = `${number(now.rate)} rows/s`;
  return now.secondsLeft === undefined ? rate : `${rate}, ${timeLeft(now.secondsLeft)} left`;
}

function timeLeft(seconds: number): string {
  return seconds < 100 ? `${seconds} s` : `${Math.ceil(seconds / 60)} min`;
}
