/** Between reasons, in what is written and in a usual reason that bundles several. */
const BETWEEN = ';';

function each(text: string): string[] {
  return text
    .split(BETWEEN)
    .map((one) => one.trim())
    .filter(Boolean);
}

/** Several reasons in one choice: the desk's; on a phone, each has a button of its own. */
export function isBundle(name: string): boolean {
  return each(name).length > 1;
}

/** A usual reason as it stands on its button: a bundle shows that it is one. */
export function asButton(name: string): string {
  return each(name).join(' + ');
}

/** Whether all of a usual reason stands in what is written. */
export function isSaid(written: string, name: string): boolean {
  const said = each(written);
  return each(name).every((one) => said.includes(one));
}

/** What is written with a usual reason added, each part of a bundle once; or, where all of it stands there, without it. */
export function toggled(written: string, name: string): string {
  const said = each(written);
  const parts = each(name);
  const kept = isSaid(written, name) ? said.filter((one) => !parts.includes(one)) : [...new Set([...said, ...parts])];
  return kept.join(`${BETWEEN} `);
}
