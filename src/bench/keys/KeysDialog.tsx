'use client';

import { Modal } from '@/ui/Modal';
import { keyText } from '../words/key-text';
import { useAllKeys } from '../shared/features';
import { useBenchStore } from '../store/context';
import { KEYS } from './keys';
import type { KeySpec } from '../shared/key-spec';

const GROUPS: readonly KeySpec['group'][] = [
  'Step cursor',
  'Edit',
  'Select',
  'Dynamics',
  'Timing',
  'Pointer and view',
  'Pages',
  'Hear',
  'Keep',
];

/** Every shortcut, by what it is for. */
export function KeysDialog() {
  const specs = useAllKeys(KEYS);
  const { getState } = useBenchStore();
  return (
    <Modal
      open
      wide
      onClose={() => getState().setUi({ dialog: null })}
      title="Keys"
      about="Arrows move the step cursor while it is shown (C), and otherwise the selection."
    >
      <KeySheet specs={specs} />
    </Modal>
  );
}

/** Keys in groups, in the order in which they are listed. */
export function KeySheet({ specs }: { specs: readonly KeySpec[] }) {
  return (
    <div className="columns-3 gap-6" tabIndex={0} aria-label="Shortcuts by group">
      {GROUPS.map((group) => (
        <section key={group} className="mb-4 break-inside-avoid">
          <h3 className="mb-1 font-serif text-base">{group}</h3>
          <dl className="space-y-0.5 text-sm leading-[18px]">
            {specs
              .filter((s) => s.group === group && s.shown !== null && s.keys.length > 0)
              .map((s) => (
                <div key={s.keys[0]} className="flex gap-2">
                  <dt className="w-[76px] shrink-0 font-semibold">{s.shown ?? keyText(s.keys[0] as string)}</dt>
                  <dd>{s.text}</dd>
                </div>
              ))}
          </dl>
        </section>
      ))}
    </div>
  );
}
