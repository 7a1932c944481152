'use client';

import { ideaName } from '../words/idea-words';
import { counted } from '@/core/plurals';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { meterMapOf, tempoMapOf } from '@/core/part/part-time';
import { ticks } from '@/core/units';
import { sectionPlayed } from '../playback/conductor';
import { usePlaybackOf } from '../playback/context';
import { useBench } from '../store/context';

const LOOK_MS = 100;

/** What comes next, and in how many beats; what the strip shows while nothing does. */
export function NextLine() {
  const { conductor, engine } = usePlaybackOf();
  const part = useBench((s) => s.part);
  const next = useStore(conductor.state, (s) => s.next);
  const ideas = useBench((s) => s.ideas);
  const open = useBench((s) => s.idea);
  const sounding = useStore(conductor.state, (s) => s.sounding?.idea ?? null);
  const [beats, setBeats] = useState<number | null>(null);
  useEffect(() => {
    if (!next) return;
    const look = () => {
      const left = engine.playing?.next?.seconds;
      const at = engine.position() ?? ticks(0);
      const beat = meterMapOf(part).beatAt(meterMapOf(part).barAt(at), at);
      const seconds = tempoMapOf(part).between(beat.start, ticks(beat.start + beat.length)) / 1000;
      setBeats(left === undefined ? null : Math.max(1, Math.ceil(left / seconds)));
    };
    look();
    const timer = setInterval(look, LOOK_MS);
    return () => clearInterval(timer);
  }, [next, engine, part]);
  if (!next) return <span className="text-xs text-faint">{open === null ? 'whole part' : ideaName(ideas.find((i) => i.id === open))}</span>;
  const called = next.idea === sounding ? null : next.idea === null ? 'the part' : ideaName(ideas.find((i) => i.id === next.idea));
  const name =
    called ??
    (next.kind === 'order'
      ? 'the running order'
      : next.kind === 'all'
        ? 'all bars'
        : (sectionPlayed(part, next)?.name ?? `bars ${next.from + 1} to ${next.to}`));
  return (
    <span role="status" className="truncate text-xs text-accent">
      next: {name}
      {beats === null ? '' : `, in ${counted(beats, 'beat')}`}
    </span>
  );
}
