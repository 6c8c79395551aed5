import type { Strokes } from '@zaguan/core/intake';
import SignaturePad from 'signature_pad';
import { useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../ui/Button.tsx';

const WIDTH = 600;
const HEIGHT = 200;
/** As many points as a stroke may have on its way to the server. */
const MAX_POINTS = 600;

/** A field to sign in with finger or pen; gives strokes in a field 600 wide and 200 high, whatever its size on screen. */
export function SignatureField({ onChange }: { onChange: (strokes: Strokes) => void }) {
  const { t } = useTranslation();
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<SignaturePad>(undefined);
  const told = useRef(onChange);
  told.current = onChange;
  useEffect(() => {
    if (!canvas.current) return;
    const element = canvas.current;
    const made = new SignaturePad(element, { penColor: '#2A2522', minWidth: 1, maxWidth: 2.6 });
    pad.current = made;
    const read = () => {
      const box = element.getBoundingClientRect();
      const inside = (value: number, max: number) => Math.max(0, Math.min(max, Math.round(value)));
      told.current(
        made
          .toData()
          .map(({ points }) =>
            points
              .slice(0, MAX_POINTS)
              .map(({ x, y }): [number, number] => [
                inside((x / box.width) * WIDTH, WIDTH),
                inside((y / box.height) * HEIGHT, HEIGHT),
              ]),
          ),
      );
    };
    made.addEventListener('endStroke', read);
    // The canvas has as many dots as it is wide, so that the line stands under the finger.
    element.width = element.offsetWidth;
    element.height = element.offsetHeight;
    return () => {
      made.removeEventListener('endStroke', read);
      made.off();
    };
  }, []);
  return (
    <div className="mt-1 flex flex-col items-start gap-2">
      {/* Ink on white in any theme: as it will stand on the paper. */}
      <canvas
        ref={canvas}
        role="img"
        aria-label={t('intake.consent.field')}
        className="aspect-[3/1] w-full touch-none rounded-md border-2 border-line-strong bg-white"
      />
      <Button
        className="min-h-11"
        onClick={() => {
          pad.current?.clear();
          onChange([]);
        }}
      >
        {t('intake.consent.clear')}
      </Button>
    </div>
  );
}
