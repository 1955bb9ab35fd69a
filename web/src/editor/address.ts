import { useEffect } from 'react';
import { useSearchParams } from 'react-router';

/** Names under which the address says what is looked at: a slope, a detail, how many lines are laid. */
type Name = 'slope' | 'detail' | 'line';

/** Browsers refuse an address that changes with every pixel of a drag. */
const CALM_MS = 300;

/** What the address says of a name; nothing where it is silent. */
export function useAddressed(name: Name): string | undefined {
  return useSearchParams()[0].get(name) ?? undefined;
}

/** Keeps the address true to what is looked at, so that a reload and a link come back to it; `undefined` leaves a name out. */
export function useKeptInAddress(said: Readonly<Partial<Record<Name, string | undefined>>>): void {
  const [params, setParams] = useSearchParams();
  const wanted = new URLSearchParams(params);
  for (const [name, value] of Object.entries(said))
    if (value === undefined) wanted.delete(name);
    else wanted.set(name, value);
  const [is, shouldBe] = [params.toString(), wanted.toString()];
  useEffect(() => {
    if (is === shouldBe) return;
    const soon = setTimeout(() => setParams(shouldBe, { replace: true, preventScrollReset: true }), CALM_MS);
    return () => clearTimeout(soon);
  }, [is, shouldBe, setParams]);
}
