'use client';

import { useState } from 'react';
import { grooveAsPart } from '@/core/groove/groove-part';
import { exportPart } from '@/core/smf/export-part';
import { GROOVE_FILE_ENDING, writeGrooveFile } from '@/formats/groove-format';
import { Button } from '@/ui/Button';
import { download, fileNameOf } from '@/ui/download';
import { removeGroove } from '../store/remove-groove';
import { freeName, keptOf } from '../store/grooves-store';
import { tempoOf } from '../store/heard';
import { useGrooves, useGroovesStore, useHandGroove } from '../store/context';

/** Tags as typed, separated by commas. @example tagsOf(' lazy, hats,,lazy ') // ['lazy', 'hats'] */
export const tagsOf = (text: string): string[] =>
  [
    ...new Set(
      text
        .split(',')
        .map((t) => t.trim().toLowerCase().slice(0, 40))
        .filter(Boolean),
    ),
  ].slice(0, 20);

/** Name, tags, copies, files, deleting. */
export function KeepTab() {
  const store = useGroovesStore();
  const { getState } = store;
  const hand = useHandGroove();
  const blended = useGrooves((s) => s.blend !== null);
  // A blend is nobody's yet, whatever it is made of.
  const kept = useGrooves((s) => (s.blend ? undefined : keptOf(s, s.chosen)));
  const tempo = useGrooves(tempoOf);
  const [name, setName] = useState<string | null>(null);
  const [tags, setTags] = useState<string | null>(null);
  const takeName = () => {
    if (kept && name?.trim() && name.trim() !== kept.groove.name)
      getState().describe(kept.id, `Rename to ${name.trim()}`, { name: name.trim() });
    setName(null);
  };
  const takeTags = () => {
    if (kept && tags !== null && tagsOf(tags).join() !== kept.tags.join())
      getState().describe(kept.id, 'Change the tags', { tags: tagsOf(tags) });
    setTags(null);
  };
  const enter = (e: { key: string; currentTarget: HTMLInputElement }) => {
    if (e.key === 'Enter') e.currentTarget.blur();
  };
  const field = 'h-8 w-full rounded-md border border-strong bg-transparent px-2 focus:bg-surface';
  return (
    <div className="space-y-3">
      {kept ? (
        <>
          <label className="block">
            <span className="text-sm text-faint">Name</span>
            <input
              className={field}
              value={name ?? kept.groove.name}
              maxLength={120}
              onChange={(e) => setName(e.target.value)}
              onBlur={takeName}
              onKeyDown={enter}
            />
          </label>
          <label className="block">
            <span className="text-sm text-faint">Tags, with commas between</span>
            <input
              className={field}
              value={tags ?? kept.tags.join(', ')}
              placeholder="lazy, hats"
              onChange={(e) => setTags(e.target.value)}
              onBlur={takeTags}
              onKeyDown={enter}
            />
          </label>
        </>
      ) : (
        <p className="text-faint">
          {blended
            ? 'This blend is not saved yet. Save it to give it a name and tags.'
            : 'Built-in grooves keep their names. Duplicate one to change it.'}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button
          onClick={() =>
            getState().keep(
              blended ? 'Save the blend' : `Copy ${hand.name}`,
              { ...hand, name: freeName(getState(), hand.name) },
              kept?.tags ?? (blended ? ['blend'] : []),
            )
          }
        >
          {kept ? 'Duplicate' : blended ? 'Save the blend' : 'Duplicate as my own'}
        </Button>
        {kept && (
          <Button className="text-danger" onClick={() => removeGroove(store, kept.id)}>
            Delete
          </Button>
        )}
      </div>
      <div className="flex flex-wrap gap-2 border-t border-line pt-3">
        <Button onClick={() => download(writeGrooveFile(hand), `${fileNameOf(hand.name)}${GROOVE_FILE_ENDING}`, 'application/json')}>
          Export as a groove file
        </Button>
        <Button onClick={() => download(exportPart(grooveAsPart(hand, tempo)).bytes, `${fileNameOf(hand.name)}.mid`, 'audio/midi')}>
          Export as MIDI
        </Button>
      </div>
      <p className="text-sm text-faint">
        The MIDI file has one hit per step, at its lean, velocity 64 where the level is 100 %. The groove file restores exactly this groove.
      </p>
    </div>
  );
}
