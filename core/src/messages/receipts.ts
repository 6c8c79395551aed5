/** How far a carrier got with a message. */
export const DELIVERY_STATES = ['sent', 'delivered', 'failed'] as const;
export type DeliveryState = (typeof DELIVERY_STATES)[number];

/** What a carrier says about a message; `at` is its own clock (any unit, only compared). */
export interface Receipt {
  readonly state: DeliveryState;
  readonly at: number;
}

/** Where two receipts bear the same time, the one that asks for a hand wins. */
const RANK: Record<DeliveryState, number> = { sent: 0, delivered: 1, failed: 2 };

/**
 * What is known of a message after one more receipt. Receipts come late, twice and out of order: a final one stands
 * against "sent" whenever it comes, and of two final ones the later by the carrier's clock. So the order of arrival
 * makes no difference.
 */
export function afterReceipt(known: Receipt, receipt: Receipt): Receipt {
  const final = (each: Receipt) => (each.state === 'sent' ? 0 : 1);
  const newer = final(receipt) - final(known) || receipt.at - known.at || RANK[receipt.state] - RANK[known.state];
  return newer > 0 ? receipt : known;
}
