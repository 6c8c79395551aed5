/** The shape of lanes that are being loaded. */
export function Skeleton({ sites = 2 }: { sites?: number }) {
  return Array.from({ length: sites }, (_, site) => `site ${site}`).map((site) => (
    <div key={site}>
      <div className="h-[24px] bg-highlight" />
      {[0, 1, 2].map((lane) => (
        <div key={lane} className="flex h-[50px] items-center gap-3 border-b border-line px-2">
          <span className="h-4 w-24 animate-pulse rounded-sm bg-highlight" />
          <span className="h-8 flex-1 animate-pulse rounded-sm bg-surface-deep" />
        </div>
      ))}
    </div>
  ));
}
