'use client';

import clsx from 'clsx';
import { useEffect, useRef, useState, type KeyboardEvent, type MouseEvent, type PointerEvent } from 'react';
import { say } from './notify';

interface Props {
  label: string;
  value: number;
  min: number;
  max: number;
  /** One arrow key or wheel notch; Shift takes a tenth, Page keys ten. */
  step?: number;
  /** Digits behind the point. */
  digits?: number;
  unit: string;
  /** What a double-click gives. */
  default?: number;
  /** Called while dragging, wheeling and typing; `done` follows once a gesture is over. */
  onChange: (value: number) => void;
  onDone?: () => void;
  /** Escape during a drag. */
  onCancel?: () => void;
  showLabel?: boolean;
  disabled?: boolean;
  className?: string;
}

/** A press becomes a drag once it has moved this far. */
const DRAG_PIXELS = 3;

/** Words beside a number that are units; others belong to the sentence around it. */
const UNITS = /^(%|ms|dB|BPM|semitones|bars?$|hits|ticks)/;

/** @example spokenName('Reach', '% of the half gap,') // 'Reach in % of the half gap'; spokenName('First bar', 'to') // 'First bar' */
const spokenName = (label: string, unit: string): string => (UNITS.test(unit) ? `${label} in ${unit.replace(/[\s,:;]+$/, '')}` : label);

/** A number as it is shown: nothing has a sign where nothing is left. @example plainly(-0.04, 1) // '0.0' */
export const plainly = (n: number, digits: number): string => (Number(n.toFixed(digits)) === 0 ? (0).toFixed(digits) : n.toFixed(digits));

const limit = (n: number, low: number, high: number): number => Math.min(high, Math.max(low, n));

/** A number with its unit: takes typing, arrow keys, the wheel, a drag up or down, and a double-click for its default, on all of it. */
export function NumberField({
  label,
  value,
  min,
  max,
  step = 1,
  digits = 0,
  unit,
  onChange,
  onDone,
  onCancel,
  showLabel = false,
  disabled,
  className,
  ...rest
}: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const drag = useRef<{ y: number; from: number; moved: boolean } | null>(null);
  const left = useRef(false);

  const give = (n: number, done = true) => {
    const scale = 10 ** digits;
    onChange(limit(Math.round(n * scale) / scale, min, max));
    if (done) onDone?.();
  };

  const takeDraft = () => {
    if (draft === null || left.current) return;
    const typed = draft.replace(',', '.').replace(/[^\d.+-]/g, '');
    setDraft(null);
    // What is no number changes nothing.
    if (typed === '' || !Number.isFinite(Number(typed))) return;
    const wanted = Number(typed);
    // What is not taken as it was typed says why.
    if (wanted < min || wanted > max)
      say(
        `${label}: ${plainly(wanted < min ? min : max, digits)}${unit && UNITS.test(unit) ? ` ${unit.replace(/[\s,:;]+$/, '')}` : ''} is the ${wanted < min ? 'lowest' : 'highest'} value.`,
      );
    give(wanted);
  };

  const onKeyDown = (e: KeyboardEvent) => {
    const direction = e.key === 'ArrowUp' || e.key === 'PageUp' ? 1 : e.key === 'ArrowDown' || e.key === 'PageDown' ? -1 : 0;
    if (direction !== 0) {
      e.preventDefault();
      setDraft(null);
      give(value + direction * step * (e.key.startsWith('Page') ? 10 : e.shiftKey ? 0.1 : 1));
    } else if (e.key === 'Enter') {
      // Taken; the keys are given back.
      takeDraft();
      left.current = true;
      input.current?.blur();
      left.current = false;
    } else if (e.key === 'Escape') {
      // It leaves the field alone: what else Escape puts away stays. The blur that follows must not take what was typed.
      e.stopPropagation();
      left.current = true;
      setDraft(null);
      input.current?.blur();
      left.current = false;
    }
  };

  // React listens to wheels passively; a number that turns must keep the page from scrolling.
  const latest = useRef({ value, give, step });
  useEffect(() => {
    latest.current = { value, give, step };
  });
  useEffect(() => {
    const element = input.current;
    const onWheel = (e: WheelEvent) => {
      if (document.activeElement !== element) return;
      e.preventDefault();
      const l = latest.current;
      l.give(l.value - Math.sign(e.deltaY) * l.step * (e.shiftKey ? 0.1 : 1));
    };
    element?.addEventListener('wheel', onWheel, { passive: false });
    return () => element?.removeEventListener('wheel', onWheel);
  }, []);

  const reset = () => {
    if (rest.default === undefined) return;
    setDraft(null);
    give(rest.default);
  };

  const dragHandlers = {
    onPointerDown: (e: PointerEvent) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      drag.current = { y: e.clientY, from: value, moved: false };
    },
    onPointerMove: (e: PointerEvent) => {
      const d = drag.current;
      if (!d || (!d.moved && Math.abs(d.y - e.clientY) < DRAG_PIXELS)) return;
      d.moved = true;
      give(d.from + ((d.y - e.clientY) / 4) * step * (e.shiftKey ? 0.1 : 1), false);
    },
    onPointerUp: () => {
      if (drag.current?.moved) onDone?.();
      drag.current = null;
    },
    onPointerCancel: () => {
      if (drag.current?.moved) onCancel?.();
      drag.current = null;
    },
    onDoubleClick: reset,
  };

  /** The figure is dragged as its unit is, until it is typed into: a click that does not move goes in. */
  const figure = {
    onPointerDown: (e: PointerEvent<HTMLInputElement>) => {
      if (e.button !== 0 || e.pointerType === 'touch' || disabled || document.activeElement === e.currentTarget) return;
      e.preventDefault();
      dragHandlers.onPointerDown(e);
    },
    // The press must not go in by itself.
    onMouseDown: (e: MouseEvent<HTMLInputElement>) => drag.current && e.preventDefault(),
    onPointerMove: dragHandlers.onPointerMove,
    onPointerUp: (e: PointerEvent<HTMLInputElement>) => {
      const goesIn = drag.current?.moved === false;
      dragHandlers.onPointerUp();
      if (goesIn) e.currentTarget.focus();
    },
    onPointerCancel: dragHandlers.onPointerCancel,
  };

  return (
    <label className={clsx('inline-flex items-baseline gap-1', disabled && 'opacity-45', className)}>
      {showLabel && <span className="text-faint">{label}</span>}
      <input
        ref={input}
        aria-label={spokenName(label, unit)}
        inputMode="decimal"
        role="spinbutton"
        aria-valuenow={value}
        aria-valuemin={min}
        aria-valuemax={max}
        disabled={disabled}
        className="w-[4.2em] rounded border-b leading-6 border-strong bg-transparent px-1 text-right hover:bg-sunk not-focus:cursor-ns-resize focus:bg-surface"
        value={draft ?? plainly(value, digits)}
        onChange={(e) => setDraft(e.target.value)}
        onFocus={(e) => e.target.select()}
        onDoubleClick={reset}
        {...figure}
        onBlur={takeDraft}
        onKeyDown={onKeyDown}
      />
      {/* Without one, what follows the figure stands close to it. */}
      {unit && (
        <span
          className="cursor-ns-resize touch-none text-faint select-none"
          title="Drag up or down; double-click for the default"
          {...dragHandlers}
        >
          {unit}
        </span>
      )}
    </label>
  );
}
