import type { ErrorTag } from '@zaguan/contracts';

export interface FailureDetails {
  readonly facts?: Record<string, string | number | boolean | null>;
  readonly codes?: readonly string[];
  readonly nearest?: readonly { start: string; providerId: string | null }[];
  readonly issues?: readonly { path: string; code: string }[];
}

/** An expected refusal, as a value: a use case returns it, the mount rolls back and answers with it. */
export class Failure<Tag extends ErrorTag = ErrorTag> {
  readonly tag: Tag;
  readonly details: FailureDetails;

  constructor(tag: Tag, details: FailureDetails = {}) {
    this.tag = tag;
    this.details = details;
  }
}

/** Thrown only to carry a failure out of a transaction so that it rolls back. */
export class RolledBack extends Error {
  readonly failure: Failure;

  constructor(failure: Failure) {
    super(failure.tag);
    this.failure = failure;
  }
}
