import { useEffect, useState } from 'react';

/** A value that changes while somebody types, once it has stood still for so many milliseconds. */
export function useSettled<T>(value: T, milliseconds: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), milliseconds);
    return () => clearTimeout(timer);
  }, [value, milliseconds]);
  return settled;
}
