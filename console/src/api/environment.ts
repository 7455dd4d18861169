const KEY = 'nachlauf-environment';

const listeners = new Set<() => void>();

/** The environment that somebody has chosen in this tab, so that another tab can show another one; all calls are about it. */
export const chosen = {
  /** Empty where nothing is chosen. */
  name: () => sessionStorage.getItem(KEY) ?? '',
  choose(name: string) {
    if (name) {
      sessionStorage.setItem(KEY, name);
    } else {
      sessionStorage.removeItem(KEY);
    }
    listeners.forEach((listener) => listener());
  },
  subscribe(listener: () => void) {
    listeners.add(listener);
    return () => {
      listeners.delete(listener);
    };
  },
};

/** The path of a call that is about the chosen environment. */
export function inChosen(path: string): string {
  const name = chosen.name();
  return name ? `${path}${path.includes('?') ? '&' : '?'}environment=${encodeURIComponent(name)}` : path;
}
