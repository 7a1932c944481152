'use client';

import { useRef } from 'react';
import { useStore } from 'zustand';
import { setRowPlays } from '@/core/commands/sound';
import type { Break } from '@/core/model/break';
import type { Row } from '@/core/model/part';
import { KIT_NAMES, type KitName, type RowPlays as Plays } from '@/core/model/sound';
import { soundOfRow } from '@/core/part/rows';
import { labelOfVoice } from '@/core/voices';
import { chosenIn } from '@/sounds/gather';
import { ownSounds } from '@/sounds/own';
import { Button } from '@/ui/Button';
import { FileField } from '@/ui/FileField';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../../store/context';

const NO_BREAKS: readonly Break[] = [];
const AS_KIT = 'kit-of-part';
const valueOf = (plays: Plays | undefined): string =>
  !plays ? AS_KIT : 'kit' in plays ? `kit ${plays.kit}` : 'own' in plays ? `own ${plays.own}` : `break ${plays.break}`;

/** What plays a row: the part's kit, another one, a sound of one's own. */
export function RowPlays({ row, label }: { row: Row; label: string }) {
  const store = useBenchStore();
  const field = useRef<HTMLInputElement>(null);
  const voice = useBench((s) => soundOfRow(s.part, row.voice));
  const { sounds, kits } = useStore(ownSounds);
  const sorted = [...sounds].sort((a, b) => Number(b.voice === voice) - Number(a.voice === voice));
  const missing =
    row.plays && 'own' in row.plays && !sounds.some((s) => row.plays && 'own' in row.plays && s.id === row.plays.own) ? row.plays : null;
  const breaks = useBench((s) => s.part.breaks) ?? NO_BREAKS;
  const choices = [
    { value: AS_KIT, text: 'the part’s kit' },
    ...KIT_NAMES.map((kit) => ({ value: `kit ${kit}`, text: kit })),
    ...sorted.map((s) => ({
      value: `own ${s.id}`,
      text: `${s.name} (${kits.find((k) => k.id === s.kit)?.name ?? labelOfVoice(s.voice).toLowerCase()})`,
    })),
    ...breaks.map((b) => ({ value: `break ${b.id}`, text: `slices of ${b.name}` })),
    ...(missing ? [{ value: valueOf(missing), text: `${missing.name}, which is not here` }] : []),
  ];
  const choose = (value: string) => {
    const own = sounds.find((s) => `own ${s.id}` === value);
    const of = breaks.find((b) => `break ${b.id}` === value);
    const plays: Plays | undefined = own
      ? { own: own.id, name: own.name }
      : of
        ? { break: of.id }
        : value.startsWith('kit ')
          ? { kit: value.slice(4) as KitName }
          : undefined;
    store.getState().run(`Another sound for ${label.toLowerCase()}`, (p) => setRowPlays(p, row.voice, plays));
  };
  return (
    <p>
      Played by <Picker label={`What plays ${label}`} value={valueOf(row.plays)} choices={choices} onChange={choose} />{' '}
      <Button size="tiny" aria-label={`Sound files for ${label}`} onClick={() => field.current?.click()}>
        Files …
      </Button>
      <FileField
        ref={field}
        label={`Files for ${label}`}
        onChoose={(files) =>
          void import('../../own-sounds/BenchSounds').then(({ receiveOnBench }) =>
            receiveOnBench(store, Promise.resolve(chosenIn(files)), { row: row.voice, label, voice }),
          )
        }
      />
    </p>
  );
}
