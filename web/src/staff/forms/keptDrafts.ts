/** What is typed into forms, kept in this tab alone: it may be about a patient, so it goes when the tab or the session does. */
const PREFIX = 'zaguan.typed.';

export function keptDraft(name: string): Record<string, unknown> | null {
  try {
    const found: unknown = JSON.parse(sessionStorage.getItem(PREFIX + name) ?? 'null');
    return found && typeof found === 'object' ? (found as Record<string, unknown>) : null;
  } catch {
    return null;
  }
}

export function keepDraft(name: string, typed: unknown): void {
  try {
    sessionStorage.setItem(PREFIX + name, JSON.stringify(typed));
  } catch {
    // A browser that keeps nothing still has the form itself.
  }
}

export function dropDraft(name: string): void {
  try {
    sessionStorage.removeItem(PREFIX + name);
  } catch {
    // Nothing was kept.
  }
}

/** Everything that was kept, when somebody signs out. */
export function dropDrafts(): void {
  try {
    for (const name of Object.keys(sessionStorage)) if (name.startsWith(PREFIX)) sessionStorage.removeItem(name);
  } catch {
    // Nothing was kept.
  }
}

const OWNER = `${PREFIX}by`;

/** Who works at this tab now: what somebody else had typed there goes. The same person finds it again after signing in. */
export function keepDraftsFor(account: string): void {
  try {
    if (sessionStorage.getItem(OWNER) === account) return;
    dropDrafts();
    sessionStorage.setItem(OWNER, account);
  } catch {
    // Nothing is kept.
  }
}
