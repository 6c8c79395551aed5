/** Stands in for the rows of a long table that are not drawn, so that it scrolls as if they were. */
export function RestOfRows({ height, columns }: { height: number; columns: number }) {
  if (!height) return null;
  return (
    // biome-ignore lint/a11y/noAriaHiddenOnFocusable: a row takes no focus
    <tr aria-hidden="true">
      <td colSpan={columns} style={{ height, padding: 0 }} />
    </tr>
  );
}
