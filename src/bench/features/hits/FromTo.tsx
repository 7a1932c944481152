import { NumberField } from '@/ui/NumberField';

interface Props {
  /** Accessible names of both fields. */
  labels: readonly [from: string, to: string];
  from: number;
  to: number;
  min: number;
  max: number;
  digits?: number;
  unit?: string;
  /** Room for this many characters. */
  width?: string;
  onChange: (from: number, to: number) => void;
}

/** A range of numbers within a sentence: "1 to 4". */
export function FromTo({ labels, from, to, min, max, digits = 0, unit = '', width = '[&_input]:w-[2.4em]', onChange }: Props) {
  const shared = { min, max, digits, className: width };
  return (
    <>
      <NumberField label={labels[0]} value={from} unit="to" {...shared} onChange={(next) => onChange(next, to)} />
      <NumberField label={labels[1]} value={to} unit={unit} {...shared} onChange={(next) => onChange(from, next)} />
    </>
  );
}
