'use client';

import { Slider } from 'radix-ui';
import { memo, useEffect, useRef } from 'react';

interface Props {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  /** Read out instead of the bare number. */
  valueText?: string;
  /** Marks along the track, in the slider's unit. */
  marks?: readonly number[];
  disabled?: boolean;
  onChange: (value: number) => void;
  onDone: () => void;
}

const NONE: readonly number[] = [];

/** A value that is swept: it changes while dragged, and the drag is one gesture. */
export function Range({ label, value, min, max, step, valueText, marks = NONE, disabled = false, onChange, onDone }: Props) {
  const shown = useRef(value);
  useEffect(() => {
    shown.current = value;
  });
  const change = (v: number) => {
    if (v === shown.current) return;
    shown.current = v;
    onChange(v);
  };
  // By keyboard the slider commits before it reports the change: the change goes first all the same.
  const commit = (v: number) => {
    change(v);
    onDone();
  };
  return (
    <Slider.Root
      className="relative flex h-8 touch-none items-center select-none data-[disabled]:opacity-45"
      value={[value]}
      min={min}
      max={max}
      step={step}
      disabled={disabled}
      onValueChange={([v]) => change(v as number)}
      onValueCommit={([v]) => commit(v as number)}
    >
      <Slider.Track className="relative h-px grow bg-strong">
        <Marks marks={marks} min={min} max={max} />
        <Slider.Range className="absolute -top-px h-[3px] rounded bg-accent" />
      </Slider.Track>
      <Slider.Thumb
        aria-label={label}
        aria-valuetext={valueText}
        className="block size-4 rounded-full border-2 border-ground bg-accent shadow"
      />
    </Slider.Root>
  );
}

const Marks = memo(function Marks({ marks, min, max }: { marks: readonly number[]; min: number; max: number }) {
  return marks.map((m) => (
    <span key={m} className="absolute -top-[5px] h-[11px] w-px bg-strong" style={{ left: `${((m - min) / (max - min)) * 100}%` }} />
  ));
});
