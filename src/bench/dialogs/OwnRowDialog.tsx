'use client';

import { newIdInPart } from '@/editing/ids';
import { useState } from 'react';
import { addOwnRow } from '@/core/commands/split-rows';
import { labelOfVoice, VOICES } from '@/core/voices';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { Picker } from '@/ui/Picker';
import { makeRows } from '../actions/row-actions';
import { useBenchStore } from '../store/context';

/** A row with a name of its own, and what it sounds like. */
export function OwnRowDialog() {
  const store = useBenchStore();
  const { getState } = store;
  const [name, setName] = useState('');
  const [like, setLike] = useState('clap');
  const close = () => getState().setUi({ dialog: null });
  const add = () => {
    close();
    makeRows(store, `Add the row ${name.trim() || 'of your own'}`, (p) => addOwnRow(p, newIdInPart(), name, like));
  };
  return (
    <Modal
      open
      onClose={close}
      title="A row of your own"
      about="It goes on top with a free MIDI key. It plays, edits and exports like any other row."
    >
      <form
        className="space-y-4"
        onSubmit={(e) => {
          e.preventDefault();
          add();
        }}
      >
        <label className="flex items-baseline gap-2">
          Called{' '}
          <input
            autoFocus
            value={name}
            maxLength={40}
            aria-label="Name of the row"
            placeholder="Tin lid"
            className="flex-1 rounded border border-strong bg-surface px-2 leading-8"
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <p>
          It sounds like{' '}
          <Picker
            label="What it sounds like"
            value={like}
            choices={VOICES.map((v) => ({ value: v, text: labelOfVoice(v) }))}
            onChange={setLike}
          />
        </p>
        <Button look="strong" type="submit">
          Add the row
        </Button>
      </form>
    </Modal>
  );
}
