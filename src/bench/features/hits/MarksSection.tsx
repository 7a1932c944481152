'use client';

import { counted, plural } from '@/core/plurals';
import { duplicatesIn, removeHits } from '@/core/commands/hits';
import { setChoke, setGhost, setLocked, setMuted } from '@/core/commands/marks';
import { lockTest } from '@/core/part/locks';
import { Button } from '@/ui/Button';
import { Section } from '@/ui/Section';
import { actOnSelection } from '../../actions/act';
import { muteSelection } from '../../actions/muting';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { useTouched } from './use-touched';

/** What marks the selected hits: ghost, choke, lock, duplicates. */
export function MarksSection() {
  const store = useBenchStore();
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  const { what } = useTouched();
  const hits = part.hits.filter((h) => selection.has(h.id));
  const isLocked = lockTest(part);
  const duplicates = duplicatesIn(part, selection);
  const none = hits.length === 0;
  const muted = part.hits.filter((h) => h.muted).map((h) => h.id);
  const all = {
    muted: hits.every((h) => h.muted),
    ghost: hits.every((h) => h.ghost),
    choke: hits.every((h) => h.choke),
    locked: hits.every(isLocked),
  };
  const byRow = hits.some((h) => isLocked(h) && !h.locked);
  return (
    <Section name="marks" title="Marks">
      <div className="flex flex-wrap gap-1">
        <Button
          size="small"
          disabled={none}
          onClick={() => actOnSelection(store, all.ghost ? 'Make plain:' : 'Make ghosts:', (p, ids) => setGhost(p, ids, !all.ghost))}
        >
          {!none && all.ghost ? 'Not ghosts' : 'Make ghosts'}
        </Button>
        <Button
          size="small"
          disabled={none}
          title="A silent hit that chokes the sound of its row"
          onClick={() => actOnSelection(store, all.choke ? 'Let sound:' : 'Make chokes:', (p, ids) => setChoke(p, ids, !all.choke))}
        >
          {!none && all.choke ? 'Not chokes' : 'Make chokes'}
        </Button>
        <Button
          size="small"
          disabled={none}
          title="Muted hits stay in their place and are not heard or exported"
          onClick={() => muteSelection(store)}
        >
          {!none && all.muted ? 'Unmute' : 'Mute'}
        </Button>
        <Button
          size="small"
          disabled={none}
          title="Locked hits are left alone by every tool"
          onClick={() => store.getState().run(`${all.locked ? 'Unlock' : 'Lock'} ${what}`, (p) => setLocked(p, selection, !all.locked))}
        >
          {!none && all.locked ? 'Unlock' : 'Lock'}
        </Button>
        {duplicates.size > 0 && (
          <Button
            size="small"
            onClick={() => store.getState().run(`Merge ${duplicates.size} duplicates`, (p) => removeHits(p, duplicates))}
          >
            Merge {duplicates.size} {plural(duplicates.size, 'duplicate')}
          </Button>
        )}
      </div>
      {muted.length > 0 && (
        <p className="mt-2 text-sm text-faint">
          {counted(muted.length, 'hit is', 'hits are')} muted.{' '}
          <Button look="plain" size="tiny" onClick={() => store.getState().select(muted)}>
            Select muted hits
          </Button>
          <Button
            look="plain"
            size="tiny"
            onClick={() => store.getState().run('Unmute all hits', (p) => setMuted(p, new Set(muted), false))}
          >
            Unmute all
          </Button>
        </p>
      )}
      {byRow && <p className="mt-2 text-sm text-faint">Some are locked by their row: unlock it in the row’s menu.</p>}
    </Section>
  );
}
