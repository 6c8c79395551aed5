import { useCallback, useLayoutEffect, useMemo, useRef } from 'react';
import { useLocation, useNavigate } from 'react-router';

/** Parts of the address to set; `null` takes one away, what is not named stays. */
export type AddressChanges = Readonly<Record<string, string | null>>;

/**
 * What a page's address says behind its "?": which filters, which open panel. A link, a reload and Back lead to the same.
 * Never patient data: people and visits are named by their ids.
 */
export function useAddress() {
  const { search } = useLocation();
  const navigate = useNavigate();
  const latest = useRef(navigate);
  useLayoutEffect(() => {
    latest.current = navigate;
  });
  const asked = useMemo(() => new URLSearchParams(search), [search]);
  /** The same function all along. With `step`, Back undoes the change. */
  const set = useCallback((changes: AddressChanges, step = false) => {
    // Not what was drawn last: two changes may come one after the other.
    const next = new URLSearchParams(window.location.search);
    for (const [name, value] of Object.entries(changes)) {
      if (value === null) next.delete(name);
      else next.set(name, value);
    }
    void latest.current({ search: next.toString() }, { replace: !step });
  }, []);
  return { asked, set };
}
