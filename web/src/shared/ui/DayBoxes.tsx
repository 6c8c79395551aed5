import { weekdayNames } from '../time/format.ts';

/** Days of the week (1 is Monday) as seven boxes. */
export function DayBoxes<D extends number>({
  label,
  chosen,
  fault,
  onChange,
}: {
  label: string;
  chosen: readonly D[];
  fault?: string;
  onChange: (days: D[]) => void;
}) {
  const changed = (day: D, on: boolean) =>
    on ? [...chosen, day].sort((a, b) => a - b) : chosen.filter((other) => other !== day);
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">{label}</legend>
      <div className="flex gap-1">
        {weekdayNames('en', 'short').map((name, i) => {
          const day = (i + 1) as D;
          return (
            <label
              key={name}
              className={`flex-1 cursor-pointer rounded-md border px-0.5 py-1.5 text-center text-sm has-focus-visible:outline-3 has-focus-visible:outline-accent ${chosen.includes(day) ? 'border-accent bg-accent font-bold text-on-fill' : 'border-line-strong bg-panel'}`}
            >
              <input
                type="checkbox"
                className="sr-only"
                name={`weekday-${day}`}
                checked={chosen.includes(day)}
                onChange={(event) => onChange(changed(day, event.target.checked))}
              />
              {name}
            </label>
          );
        })}
      </div>
      {fault && (
        <p role="alert" className="mt-1 font-semibold text-danger">
          {fault}
        </p>
      )}
    </fieldset>
  );
}
