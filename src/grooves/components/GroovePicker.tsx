'use client';

import { houseId, HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { Picker } from '@/ui/Picker';
import { useGrooves } from '../store/context';

interface Props {
  label: string;
  value: string;
  /** Not offered. */
  except?: string;
  /** Offered before the grooves. */
  more?: readonly { value: string; text: string }[];
  onChange: (id: string) => void;
}

/** One groove out of all. */
export function GroovePicker({ label, value, except, more = [], onChange }: Props) {
  const own = useGrooves((s) => s.own) ?? [];
  const grooves = [
    ...own.map((k) => ({ value: k.id, text: k.groove.name })),
    ...HOUSE_GROOVES.map((g) => ({ value: houseId(g.name), text: g.name })),
  ];
  return <Picker label={label} value={value} choices={[...more, ...grooves.filter((g) => g.value !== except)]} onChange={onChange} />;
}
