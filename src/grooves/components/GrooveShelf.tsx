'use client';

import { Search } from 'lucide-react';
import { EmptyPicture } from '@/ui/EmptyPicture';
import { useMemo, useState } from 'react';
import { GROOVE_FAMILIES, houseId } from '@/core/groove/house-grooves';
import type { Groove } from '@/core/model/groove';
import { useIsPlaying } from '@/ui/use-engine';
import { useGrooves } from '../store/context';
import type { Hearing } from '../store/use-hearing';
import { sizeWords } from '../words/words';
import { GrooveCard } from './GrooveCard';

interface Item {
  id: string;
  groove: Groove;
  about: string;
  /** What a search looks through. */
  text: string;
}

interface Group {
  name: string;
  items: Item[];
}

const item = (id: string, groove: Groove, about: string, more: readonly string[]): Item => ({
  id,
  groove,
  about,
  text: [groove.name, groove.meter.join('/'), about, ...more].join(' ').toLowerCase(),
});

const HOUSE: readonly Group[] = GROOVE_FAMILIES.map((f) => ({
  name: f.name,
  items: f.grooves.map((g) => item(houseId(g.groove.name), g.groove, g.about, [f.name])),
}));

/** All grooves: the user's own first, then ours by family; found by words and tags. */
export function GrooveShelf({ hearing }: { hearing: Hearing }) {
  const own = useGrooves((s) => s.own);
  const [search, setSearch] = useState('');
  const playing = useIsPlaying(hearing.engine);
  const tags = useMemo(() => [...new Set((own ?? []).flatMap((k) => k.tags))].sort(), [own]);
  const groups = useMemo(() => {
    const mine: Group = {
      name: 'Yours',
      items: (own ?? []).map((k) => item(k.id, k.groove, k.tags.length > 0 ? k.tags.join(', ') : sizeWords(k.groove), k.tags)),
    };
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    return [mine, ...HOUSE]
      .map((g) => ({ ...g, items: g.items.filter((i) => words.every((w) => i.text.includes(w))) }))
      .filter((g) => g.items.length > 0);
  }, [own, search]);
  return (
    <section aria-label="All grooves" className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-2 px-5 pt-3 pb-2">
        <label className="flex h-8 items-center gap-2 rounded-md border border-strong px-2">
          <Search size={15} className="text-faint" aria-hidden="true" />
          <input
            value={search}
            onChange={(e) => setSearch(e.target.value)}
            placeholder="Name, time signature, family, tag"
            aria-label="Search the grooves"
            className="w-52 bg-transparent outline-none placeholder:text-faint"
          />
        </label>
        {tags.map((tag) => (
          <button
            key={tag}
            type="button"
            aria-pressed={search === tag}
            className="rounded-full border border-line px-2.5 py-0.5 text-sm hover:bg-sunk aria-pressed:border-accent aria-pressed:text-accent"
            onClick={() => setSearch(search === tag ? '' : tag)}
          >
            {tag}
          </button>
        ))}
      </div>
      <div className="min-h-0 flex-1 overflow-auto px-5 pb-8" tabIndex={-1}>
        {groups.length === 0 && <p className="py-10 text-center text-faint">No groove matches “{search}”.</p>}
        {own && own.length === 0 && search === '' && (
          <div className="my-2 flex items-center gap-4 rounded-md border border-dashed border-strong px-3 py-2">
            <EmptyPicture className="shrink-0" />
            <p className="text-faint">None yet: extract one from a part, change a built-in one, or drop a groove or MIDI file here.</p>
          </div>
        )}
        {groups.map((group) => (
          <section key={group.name} aria-label={group.name} className="mb-5">
            <h2 className="mb-2 font-serif text-lg">{group.name}</h2>
            <ul className="grid grid-cols-[repeat(auto-fill,minmax(200px,1fr))] gap-3">
              {group.items.map((i) => (
                <GrooveCard key={i.id} id={i.id} groove={i.groove} about={i.about} hearing={hearing} playing={playing} />
              ))}
            </ul>
          </section>
        ))}
      </div>
    </section>
  );
}
