'use client';

import { useStored } from '@/storage/use-stored';
import type { GrooveMove } from '@/core/model/feel';
import type { Groove } from '@/core/model/groove';
import { houseId, HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { grooveStore, type KeptGroove } from '@/storage/groove-store';
import { Picker } from '@/ui/Picker';
import type { Edit } from './edit';

const NONE: KeptGroove[] = [];
/** The move's own groove, where it is none of those that are offered. */
const OWN = 'move';

/** Which groove a template move plays like: the user's own, then ours. */
export function GrooveOfMove({ move, edit }: { move: GrooveMove; edit: Edit }) {
  const kept = useStored(() => grooveStore.list().catch(() => NONE), []) ?? NONE;
  const offered = [...kept.map((k) => ({ id: k.id, groove: k.groove })), ...HOUSE_GROOVES.map((groove) => ({ id: houseId(groove.name), groove }))];
  const same = (groove: Groove): boolean => groove === move.groove || (groove.name === move.groove.name && JSON.stringify(groove) === JSON.stringify(move.groove));
  const value = offered.find((o) => same(o.groove))?.id ?? OWN;
  return (
    <Picker
      label="Groove"
      value={value}
      choices={[...(value === OWN ? [{ value: OWN, text: move.groove.name }] : []), ...offered.map((o) => ({ value: o.id, text: o.groove.name }))]}
      onChange={(id) => {
        const chosen = offered.find((o) => o.id === id);
        if (chosen) edit.set(`Play like ${chosen.groove.name}`, { groove: chosen.groove });
      }}
    />
  );
}
