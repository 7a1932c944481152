'use client';

import { counted } from '@/core/plurals';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';

/** What becomes of the tempo changes that follow, where the tempo is changed. */
export type LaterTempos = 'proportion' | 'here';

interface Props {
  /** How many changes follow. */
  changes: number;
  onChoose: (later: LaterTempos) => void;
  onCancel: () => void;
}

/** Asked once: the tempo of a part that has more than one. */
export default function LaterTemposDialog({ changes, onChoose, onCancel }: Props) {
  return (
    <Modal
      open
      onClose={onCancel}
      title="Change the later tempos too?"
      about={`The tempo changes ${counted(changes, 'time')} later in this part.`}
    >
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button onClick={onCancel}>Cancel</Button>
        <Button onClick={() => onChoose('here')}>Only up to the next change</Button>
        <Button look="strong" onClick={() => onChoose('proportion')}>
          Scale all tempos
        </Button>
      </div>
    </Modal>
  );
}
