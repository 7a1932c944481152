'use client';

import { counted } from '@/core/plurals';
import { newHitId } from '@/editing/ids';
import { expandOrnaments, gatherOrnaments, setOrnament } from '@/core/commands/ornaments';
import type { Ornament } from '@/core/model/ornament';
import { ORNAMENTS, wordOfOrnament } from '@/core/ornament/all';
import { Button } from '@/ui/Button';
import { Section } from '@/ui/Section';
import { say } from '@/ui/notify';
import { actOnSelection, touchOf } from '../../actions/act';
import { useBench, useBenchStore, useBenchSwept } from '../../store/context';
import { ORNAMENT_SENTENCES } from './ornaments/all';
import type { OrnamentSentence } from './ornaments/sentence';

/** Rolls, flams and echoes of the selected hits: given, edited as one thing, expanded, combined again. */
export function OrnamentSection() {
  const store = useBenchStore();
  const { getState } = store;
  const part = useBenchSwept((s) => s.part);
  const selection = useBench((s) => s.selection);
  const none = selection.size === 0;
  const index = part.hits.findIndex((h) => selection.has(h.id) && h.ornament);
  const ornament = part.hits[index]?.ornament;
  const Sentence = ornament && (ORNAMENT_SENTENCES[ornament.kind] as OrnamentSentence);
  const give = (word: string, next: Ornament) => actOnSelection(store, `Add a ${word} to`, (p, ids) => setOrnament(p, ids, next));
  const expand = () => {
    const { part: now, selection: chosen, run } = getState();
    const { ids } = touchOf(now, chosen);
    let made: readonly string[] = [];
    run(
      'Convert to plain hits',
      (p) => {
        const expanded = expandOrnaments(p, ids, newHitId);
        made = expanded.ids;
        return expanded.part;
      },
      () => made,
    );
  };
  const gather = () => {
    const { part: now, selection: chosen, run } = getState();
    const found = gatherOrnaments(now, chosen);
    if (found.ids.length === 0)
      return say(
        'These hits form no roll or flam. A roll needs even gaps under a sixteenth and an even ramp; a flam needs soft hits right before a louder one.',
      );
    run(
      `Combine hits into ${counted(found.ids.length, 'ornament')}`,
      () => found.part,
      () => found.ids,
    );
  };
  return (
    <Section name="ornaments" title="Ornaments" note={ornament ? wordOfOrnament(ornament) : ''}>
      <div className="flex flex-wrap gap-[3px]" role="group" aria-label="Add an ornament">
        {ORNAMENTS.flatMap((spec) => spec.ready).map(({ word, ornament: ready }) => (
          <Button key={word} size="small" disabled={none} onClick={() => give(word, ready)}>
            {word}
          </Button>
        ))}
        <Button
          size="small"
          disabled={!ornament}
          onClick={() => actOnSelection(store, 'Remove the ornaments from', (p, ids) => setOrnament(p, ids, undefined))}
        >
          None
        </Button>
      </div>
      {Sentence && (
        <div className="mt-2 leading-8">
          <Sentence part={part} index={index} ornament={ornament} />
        </div>
      )}
      <div className="mt-2 flex flex-wrap gap-1">
        <Button size="small" disabled={!ornament} title="Turns every stroke into a separate hit" onClick={expand}>
          Convert to plain hits
        </Button>
        <Button
          size="small"
          disabled={selection.size < 2}
          title="Plain hits that are a roll or a flam become one hit with an ornament"
          onClick={gather}
        >
          Combine into one
        </Button>
      </div>
      {ornament && (
        <p className="mt-2 text-sm text-faint">
          In the row: drag the bracket up or down for more or fewer strokes, its end sideways or up and down.
        </p>
      )}
    </Section>
  );
}
