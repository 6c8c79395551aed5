/** What a carrier says of a message handed to it. */
export type HandedOver =
  | { readonly ok: true }
  /** `final`: trying again will not help (the number does not exist); otherwise it will be tried again. */
  | { readonly ok: false; readonly reason: string; readonly final: boolean };

/** A text message. The id is stable: a carrier that has seen it discards the repetition. */
export interface TextMessage {
  readonly id: string;
  readonly to: string;
  readonly body: string;
}

export interface SmsCarrier {
  send(message: TextMessage): Promise<HandedOver>;
}

/** An e-mail, with the visit as an iCalendar object where it is about one. */
export interface MailMessage extends TextMessage {
  readonly fromName: string;
  readonly subject: string;
  readonly calendar: { readonly method: 'REQUEST' | 'CANCEL'; readonly content: string } | null;
  /** Where one click ends such messages (RFC 8058); `null` where there is nothing to end. */
  readonly unsubscribeUrl: string | null;
}

export interface MailCarrier {
  send(message: MailMessage): Promise<HandedOver>;
}

/** What a carrier reports later about a message it took; it may come late, twice and out of order. */
export interface CarrierReceipt {
  readonly messageId: string;
  readonly state: 'sent' | 'delivered' | 'failed';
  readonly reason: string | null;
  /** By the carrier's own clock. */
  readonly at: Date;
}

/** A mail that came to the clinic: an answer of a patient. */
export interface MailAnswer {
  readonly from: string;
  readonly body: string;
}

/** Told of what comes back. Each may come again after a crash, so handling it twice must do no harm. */
export interface CarrierWebhooks {
  receipt(receipt: CarrierReceipt): Promise<void>;
  answer(answer: MailAnswer): Promise<void>;
}
