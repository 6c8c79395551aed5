/** Start times gained and lost, as they stand in tables: "+3 −12", or "0". */
export const signed = ({ gained, lost }: { readonly gained: number; readonly lost: number }): string =>
  [gained ? `+${gained}` : '', lost ? `−${lost}` : ''].filter(Boolean).join(' ') || '0';
