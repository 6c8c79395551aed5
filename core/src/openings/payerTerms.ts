/** What a payer accepts at one level; `null` leaves it to the next wider one. */
export interface PayerRule {
  readonly payerId: string;
  readonly visitTypeId: string | null;
  readonly siteId: string | null;
  readonly providerId: string | null;
  readonly accepted: boolean | null;
  readonly referral: boolean | null;
  readonly authorization: boolean | null;
}

/** What a payer comes to for one visit type at one site with one provider. */
export interface PayerTerms {
  readonly accepted: boolean;
  /** A referral is needed. */
  readonly referral: boolean;
  /** An authorization is needed. */
  readonly authorization: boolean;
}

/**
 * Settles each of the three by itself: the narrowest level that says something decides; a provider is narrower than a
 * site, and a site than a visit type. A payer that nothing is said about is not accepted (common practice).
 *
 * @param rules of any payers
 */
export function payerTerms(
  rules: readonly PayerRule[],
  payerId: string,
  { visitTypeId, siteId, providerId }: { visitTypeId: string; siteId: string; providerId: string | null },
): PayerTerms {
  const rows = rules
    .filter(
      (row) =>
        row.payerId === payerId &&
        (row.visitTypeId === null || row.visitTypeId === visitTypeId) &&
        (row.siteId === null || row.siteId === siteId) &&
        (row.providerId === null || row.providerId === providerId),
    )
    .sort((a, b) => narrowness(b) - narrowness(a));
  const settle = (read: (row: PayerRule) => boolean | null) =>
    rows.map(read).find((value): value is boolean => value !== null) ?? false;
  return {
    accepted: settle((row) => row.accepted),
    referral: settle((row) => row.referral),
    authorization: settle((row) => row.authorization),
  };
}

function narrowness(row: PayerRule): number {
  return (row.providerId ? 4 : 0) + (row.siteId ? 2 : 0) + (row.visitTypeId ? 1 : 0);
}
