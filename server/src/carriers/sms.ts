/** What a carrier says of a message handed to it. */
export type HandedOver =
  | { readonly ok: true }
  /** `final`: trying again will not help (the number does not exist); otherwise it will be tried again. */
  | { readonly ok: false; readonly reason: string; readonly final: boolean };

/** Takes text messages. The id is stable: a carrier that has seen it discards the repetition. */
export interface SmsCarrier {
  send(message: { readonly id: string; readonly to: string; readonly body: string }): Promise<HandedOver>;
}
