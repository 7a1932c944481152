'use client';

import { useState } from 'react';
import { playedByGroove } from '@/core/analysis/played-by-groove';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { EMPTY_FEEL } from '@/core/model/feel';
import type { Part } from '@/core/model/part';
import { withHits } from '@/core/take/hits-of-take';
import { hitsOfTake } from '@/core/take/use-take';
import { partStore } from '@/storage/part-store';
import type { StoredTake } from '@/storage/take-store';
import { useStored } from '@/storage/use-stored';
import { Button } from '@/ui/Button';
import { showError } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../../store/context';
import { useVersions } from '../../store/use-versions';
import { useTakes } from '../../shared/use-takes';
import { useKeptGrooves } from '../../shared/use-kept-grooves';

export type MeasuredVersion = 'performed' | 'written';

/** What is measured: the part, or something else beside it. */
export type MeasuredChoice = { kind: MeasuredVersion } | { kind: 'other'; id: string; part: Part };

/** As performed, as written, or something else, which is read from the store only when it is asked for. */
export function WhatIsMeasured({ wanted, onChange }: { wanted: MeasuredChoice; onChange: (wanted: MeasuredChoice) => void }) {
  const [asked, setAsked] = useState(false);
  return (
    <p>
      Hits{' '}
      {asked ? (
        <VersionPicker wanted={wanted} onChange={onChange} />
      ) : (
        <>
          <Picker label="What is measured" value={wanted.kind} choices={KINDS} onChange={(v) => onChange({ kind: v as MeasuredVersion })} />{' '}
          <Button size="tiny" onClick={() => setAsked(true)}>
            Or something else …
          </Button>
        </>
      )}
      {wanted.kind !== 'performed' && <span className="text-faint">; beneath them in the table, as performed now</span>}
    </p>
  );
}

const KINDS = [
  { value: 'performed', text: 'as performed' },
  { value: 'written', text: 'as written' },
];

function VersionPicker({ wanted, onChange }: { wanted: MeasuredChoice; onChange: (wanted: MeasuredChoice) => void }) {
  const { getState } = useBenchStore();
  const id = useBench((s) => s.id);
  const versions = useVersions(id);
  const parts = useStored(() => partStore.list(), []) ?? [];
  const takes = useTakes();
  const kept = useKeptGrooves();
  const grooves = [...kept.map((k) => ({ key: k.id, groove: k.groove })), ...HOUSE_GROOVES.map((groove) => ({ key: groove.name, groove }))];
  const choose = async (value: string) => {
    const [kind, key] = [value.slice(0, value.indexOf(':')), value.slice(value.indexOf(':') + 1)];
    const version = versions.find((v) => v.id === key);
    const take = takes.find((t) => t.take.id === key);
    const groove = grooves.find((g) => g.key === key)?.groove;
    if (kind === 'version' && version) onChange({ kind: 'other', id: value, part: version.part });
    else if (kind === 'take' && take) onChange({ kind: 'other', id: value, part: takeAlone(getState().part, take) });
    else if (kind === 'groove' && groove) onChange({ kind: 'other', id: value, part: playedByGroove(getState().part, groove) });
    else if (kind === 'part') onChange({ kind: 'other', id: value, part: (await partStore.load(key)).part });
    else onChange({ kind: value as MeasuredVersion });
  };
  const choices = [
    ...KINDS,
    ...versions.map((v) => ({ value: `version:${v.id}`, text: `of the version ${v.name}` })),
    ...takes.map(({ take }) => ({ value: `take:${take.id}`, text: `of ${take.name}` })),
    ...grooves.map(({ key, groove }) => ({ value: `groove:${key}`, text: `as ${groove.name} alone plays them` })),
    ...parts.filter((p) => p.id !== id).map((p) => ({ value: `part:${p.id}`, text: `of the part ${p.name}` })),
  ];
  return (
    <Picker
      label="What is measured"
      value={wanted.kind === 'other' ? wanted.id : wanted.kind}
      choices={choices}
      onChange={(v) => void choose(v).catch(showError)}
    />
  );
}

/** A take by itself, over the part's bars. */
const takeAlone = (part: Part, { take, events }: StoredTake): Part =>
  withHits({ ...part, feel: EMPTY_FEEL, hits: [] }, hitsOfTake(part, take, events));
