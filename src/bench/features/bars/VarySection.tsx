'use client';

import { newHitId } from '@/editing/ids';
import { useState } from 'react';
import type { PhraseBar } from '@/core/analysis/phrase';
import type { Part } from '@/core/model/part';
import { labelOfRow } from '@/core/part/rows';
import { applyVariations, varied, VARY_KINDS, type Variation, type VaryKind } from '@/core/vary/vary';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { placeText } from '../../words/describe';
import { useBench } from '../../store/context';
import { calmPart } from '../../store/derived';
import { useTrial } from '../../store/use-sweep';
import { TrialButtons } from './TrialButtons';

const KIND_WORDS: Readonly<Record<VaryKind, string>> = {
  leave: 'leave a soft one out',
  add: 'add one between',
  ghost: 'add a ghost',
  move: 'move by a step',
  kin: 'another sound of the family',
  dynamics: 'new dynamics',
};

const PLACES = ['last', 'alike', 'loop'] as const;
type Place = (typeof PLACES)[number];

/** Bars whose like was there before. */
const repeats = (phrase: readonly PhraseBar[]): number[] =>
  phrase.flatMap((bar, i) => (bar.shape >= 0 && phrase.findIndex((b) => b.shape === bar.shape) < i ? [i] : []));

const ALL_ROWS = 'all rows';

/** Small changes of bars that repeat: proposed, heard in the loop, taken one by one or all. */
export function VarySection() {
  const part = useBench(calmPart);
  const from = useBench((s) => s.transport.fromBar);
  const to = useBench((s) => Math.min(s.transport.toBar, s.part.bars));
  const grid = useBench((s) => s.view.grid);
  const phrase = useBench((s) => s.whole?.phrase);
  const [place, setPlace] = useState<Place>('last');
  const [amount, setAmount] = useState(15);
  const [kinds, setKinds] = useState<readonly VaryKind[]>(VARY_KINDS);
  const [row, setRow] = useState(ALL_ROWS);
  const [seed, setSeed] = useState(1);
  const [list, setList] = useState<readonly Variation[]>([]);
  const [left, setLeft] = useState<ReadonlySet<Variation>>(new Set());
  const trial = useTrial();
  const alike = phrase ? repeats(phrase) : [];
  const bars = place === 'last' ? [to - 1] : place === 'loop' ? Array.from({ length: to - from }, (_, i) => from + i) : alike;
  const placeWords: Readonly<Record<Place, string>> = {
    last: `bar ${to}`,
    alike: `the ${alike.length} bars that repeat others`,
    loop: 'all bars of the loop',
  };

  const show = (next: readonly Variation[], out: ReadonlySet<Variation>) => {
    setList(next);
    setLeft(out);
    trial.show(`Vary ${placeWords[place]}`, (p) =>
      applyVariations(
        p,
        next.filter((v) => !out.has(v)),
        newHitId,
      ),
    );
  };
  const propose = (s = seed) => {
    trial.cancel();
    show(varied(part, { bars, amount, kinds, grid, seed: s, ...(row === ALL_ROWS ? {} : { rows: [row] }) }), new Set());
  };
  const change = (work: () => void) => {
    trial.cancel();
    setList([]);
    work();
  };
  const toggle = (v: Variation) => {
    const out = new Set(left);
    if (!out.delete(v)) out.add(v);
    show(list, out);
  };
  const isShown = trial.active && list.length > 0;
  return (
    <Section name="vary" title="Vary">
      <p className="leading-8">
        Change{' '}
        <NumberField
          label="How much varies"
          value={amount}
          min={1}
          max={100}
          default={15}
          unit="%"
          className="[&_input]:w-[2.6em]"
          onChange={(n) => change(() => setAmount(n))}
        />{' '}
        of{' '}
        <Picker
          label="Rows that vary"
          value={row}
          choices={[{ value: ALL_ROWS, text: ALL_ROWS }, ...part.rows.map((r) => ({ value: r.voice, text: labelOfRow(part, r.voice) }))]}
          onChange={(r) => change(() => setRow(r))}
        />{' '}
        in{' '}
        <Picker
          label="Bars that vary"
          value={place}
          choices={PLACES.filter((p) => p !== 'alike' || alike.length > 0).map((p) => ({ value: p, text: placeWords[p] }))}
          onChange={(p) => change(() => setPlace(p as Place))}
        />
      </p>
      <div className="flex flex-wrap gap-1" role="group" aria-label="Kinds of change">
        {VARY_KINDS.map((kind) => (
          <Button
            key={kind}
            size="tiny"
            aria-pressed={kinds.includes(kind)}
            className={kinds.includes(kind) ? 'font-semibold' : 'text-faint line-through'}
            onClick={() => change(() => setKinds(kinds.includes(kind) ? kinds.filter((k) => k !== kind) : [...kinds, kind]))}
          >
            {KIND_WORDS[kind]}
          </Button>
        ))}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button
          size="small"
          disabled={kinds.length === 0 || bars.length === 0}
          onClick={() => {
            const next = isShown ? seed + 1 : seed;
            setSeed(next);
            propose(next);
          }}
        >
          {isShown ? 'New variation' : 'Propose'}
        </Button>
        {isShown && <TrialButtons keep={`Apply ${list.length - left.size}`} />}
      </div>
      {isShown && (
        <ul aria-label="Proposed changes" className="mt-2 space-y-0.5 text-sm">
          {list.map((v, i) => (
            <li key={i}>
              <label className="flex items-baseline gap-2">
                <input type="checkbox" className="accent-accent" checked={!left.has(v)} onChange={() => toggle(v)} />
                {changeText(part, v)}
              </label>
            </li>
          ))}
        </ul>
      )}
      <p className="mt-1 text-sm text-faint">The backbeat and the first kick stay up to 60 %.</p>
    </Section>
  );
}

/** @example 'Snare, bar 4, beat 2 e: a ghost at 24' */
function changeText(part: Part, { kind, hit, to }: Variation): string {
  const at = hit ?? to;
  if (!at) return '';
  const name = `${labelOfRow(part, at.voice)}, ${placeText(part, at.tick)}`;
  switch (kind) {
    case 'leave':
      return `${name}: left out`;
    case 'add':
      return `${name}: one more at ${to?.velocity}`;
    case 'ghost':
      return `${name}: a ghost at ${to?.velocity}`;
    case 'move':
      return `${name}: to ${to ? placeText(part, to.tick) : ''}`;
    case 'kin':
      return `${name}: as ${to ? labelOfRow(part, to.voice).toLowerCase() : ''}`;
    case 'dynamics':
      return `${name}: ${hit?.velocity} becomes ${to?.velocity}`;
  }
}
