export function AvailabilityPage() {
  return <main />;
}
