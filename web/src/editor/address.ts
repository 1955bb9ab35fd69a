import { useEffect } from 'react';
import { useLocation, useSearchParams } from 'react-router';

/** Names under which the address says what is looked at: a slope, a detail, how many lines are laid. */
type Name = 'slope' | 'detail' | 'line';

/** Browsers refuse an address that changes with every pixel of a drag. */
const CALM_MS = 300;

/** What the address said of a name when the page was opened; nothing where it is silent. */
export function useAddressed(name: Name): string | undefined {
  return useSearchParams()[0].get(name) ?? undefined;
}

/**
 * Keeps the address true to what is looked at, so that a reload and a link come back to it; `undefined` leaves a name out. The browser alone is told: to the
 * router it would be another way to go, for which it gave up a page that is on its way.
 */
export function useKeptInAddress(said: Readonly<Partial<Record<Name, string | undefined>>>): void {
  const { pathname } = useLocation();
  const told = JSON.stringify(Object.entries(said).map(([name, value]) => [name, value ?? null]));
  useEffect(() => {
    const soon = setTimeout(() => {
      if (window.location.pathname !== pathname) return;
      const params = new URLSearchParams(window.location.search);
      for (const [name, value] of JSON.parse(told) as [string, string | null][])
        if (value === null) params.delete(name);
        else params.set(name, value);
      const query = params.toString();
      window.history.replaceState(window.history.state, '', `${pathname}${query === '' ? '' : `?${query}`}`);
    }, CALM_MS);
    return () => clearTimeout(soon);
  }, [told, pathname]);
}
