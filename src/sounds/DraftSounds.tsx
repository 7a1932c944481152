'use client';

import { ChevronDown, ChevronUp, Volume1, X } from 'lucide-react';
import { useState } from 'react';
import type { OwnLayer, OwnSound, OwnTake } from '@/core/model/own-sound';
import { labelOfVoice, VOICES } from '@/core/voices';
import { soundEngine } from '@/sound/engine';
import { Button, IconButton } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { showError } from '@/ui/notify';
import { layersWords, moveTake, removeTake, setUpTo, type Draft, type DraftSound } from './draft';
import { trySound } from './own';

const OUT = 'out';
const CHOICES = [{ value: OUT, text: 'nothing: leave it out' }, ...VOICES.map((v) => ({ value: v as string, text: labelOfVoice(v) }))];

/** Sounds a draft at a velocity, in the kit's plain mix. */
function hear(draft: Draft, { voice, ...sound }: DraftSound, velocity: number) {
  const heard: OwnSound = { ...sound, voice: voice ?? 'snare' };
  trySound(heard, draft.samples);
  void soundEngine()
    .audition({ rows: [{ voice: heard.voice, plays: { own: heard.id, name: heard.name } }] }, heard.voice, velocity)
    .catch(showError);
}

/** The sounds of a draft: a line each, opened to its layers. */
export function DraftSounds({ draft, forRow, onChange }: { draft: Draft; forRow: boolean; onChange: (draft: Draft) => void }) {
  const [open, setOpen] = useState<string | null>(forRow ? (draft.sounds[0]?.id ?? null) : null);
  const set = (id: string, change: Partial<DraftSound>) => {
    const sounds = draft.sounds.map((s) => {
      if (s.id === id) return { ...s, ...change };
      // A voice has one sound in a kit.
      return change.voice != null && s.voice === change.voice ? { ...s, voice: null } : s;
    });
    onChange({ ...draft, sounds });
  };
  return (
    <ul aria-label="Sounds" className="divide-y divide-line border-y border-line">
      {draft.sounds.map((sound) => {
        const isOpen = open === sound.id;
        const Sign = isOpen ? ChevronUp : ChevronDown;
        return (
          <li key={sound.id} className={`py-1.5 ${sound.voice === null ? 'text-faint' : ''}`}>
            <div className="flex flex-wrap items-center gap-2">
              <button
                type="button"
                aria-expanded={isOpen}
                aria-label={`Layers of ${sound.name}`}
                className="flex min-w-0 flex-1 items-center gap-2 text-left"
                onClick={() => setOpen(isOpen ? null : sound.id)}
              >
                <Sign size={15} className="shrink-0 text-faint" />
                <span className={`truncate ${isOpen ? 'font-semibold' : ''}`}>{sound.name}</span>
                <span className="shrink-0 text-sm text-faint">{layersWords(sound.layers)}</span>
              </button>
              {!forRow && (
                <span>
                  plays{' '}
                  <Picker
                    label={`What ${sound.name} plays`}
                    value={sound.voice ?? OUT}
                    choices={CHOICES}
                    onChange={(v) => set(sound.id, { voice: v === OUT ? null : v })}
                  />
                </span>
              )}
              <Button size="small" aria-label={`Hear ${sound.name}`} onClick={() => hear(draft, sound, 110)}>
                Hear
              </Button>
            </div>
            {isOpen && <Layers draft={draft} sound={sound} onChange={(change) => set(sound.id, change)} />}
          </li>
        );
      })}
    </ul>
  );
}

/** Which velocities play which takes, from soft to hard. */
function Layers({ draft, sound, onChange }: { draft: Draft; sound: DraftSound; onChange: (change: Partial<DraftSound>) => void }) {
  const { layers } = sound;
  const set = (next: readonly OwnLayer[]) => onChange({ layers: next });
  return (
    <div className="space-y-2 py-2 pl-6 text-sm">
      {layers.map((layer, l) => (
        <div key={l} className="flex items-baseline gap-3">
          <p className="w-44 shrink-0">
            {l === 0 && layers.length === 1 ? 'All velocities' : `${(layers[l - 1]?.upTo ?? 0) + 1} to `}
            {layers.length > 1 &&
              (l === layers.length - 1 ? (
                '127'
              ) : (
                <NumberField
                  label={`Highest velocity of layer ${l + 1} of ${sound.name}`}
                  value={layer.upTo}
                  min={1}
                  max={126}
                  unit=""
                  className="[&_input]:w-[2.6em]"
                  onChange={(n) => set(setUpTo(layers, l, n))}
                />
              ))}
            <IconButton
              label={`Hear layer ${l + 1} of ${sound.name}`}
              hint={`Hear it at velocity ${layer.upTo}`}
              size="tiny"
              className="ml-1 align-middle"
              onClick={() => hear(draft, sound, layer.upTo)}
            >
              <Volume1 size={15} />
            </IconButton>
          </p>
          <ul className="max-w-[34rem] min-w-0 flex-1 space-y-0.5">
            {layer.takes.map((take, t) => (
              <Take
                key={`${take.sample} ${t}`}
                take={take}
                atSoftest={l === 0 && layer.takes.length === 1}
                atHardest={l === layers.length - 1 && layer.takes.length === 1}
                onMove={(by) => set(moveTake(layers, { layer: l, take: t }, by))}
                onRemove={() => set(removeTake(layers, { layer: l, take: t }))}
                last={layers.length === 1 && layer.takes.length === 1}
              />
            ))}
          </ul>
        </div>
      ))}
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={sound.cut === true}
          onChange={(e) => onChange({ cut: e.target.checked })}
          className="accent-accent"
        />
        Each stroke ends the one before
      </label>
    </div>
  );
}

function Take({
  take,
  atSoftest,
  atHardest,
  onMove,
  onRemove,
  last,
}: {
  take: OwnTake;
  atSoftest: boolean;
  atHardest: boolean;
  onMove: (by: -1 | 1) => void;
  onRemove: () => void;
  last: boolean;
}) {
  const file = take.name.split('/').pop() ?? take.name;
  return (
    <li className="flex items-center gap-2">
      <span className="min-w-0 flex-1 truncate" title={take.name}>
        {file} <span className="text-faint">{take.level.toFixed(1)} dB</span>
      </span>
      <Button size="tiny" look="plain" disabled={atSoftest} aria-label={`Into a softer layer: ${file}`} onClick={() => onMove(-1)}>
        Softer
      </Button>
      <Button size="tiny" look="plain" disabled={atHardest} aria-label={`Into a harder layer: ${file}`} onClick={() => onMove(1)}>
        Harder
      </Button>
      <IconButton size="tiny" label={`Leave out ${file}`} disabled={last} onClick={onRemove}>
        <X size={14} />
      </IconButton>
    </li>
  );
}
