'use client';

import { Tabs } from 'radix-ui';
import { useEffect, useRef, type KeyboardEvent } from 'react';
import { ErrorBoundary, Fault } from '@/ui/ErrorBoundary';
import { Help } from '@/ui/Help';
import { OpenSections } from '@/ui/Section';
import type { PageSpec } from '../shared/feature';
import { useBench, useBenchStore } from '../store/context';

const entry =
  'group flex h-8 items-baseline justify-between gap-2 rounded-md px-2 text-left leading-8 hover:bg-sunk data-[state=active]:bg-chosen data-[state=active]:font-semibold data-[state=active]:text-accent pointer-coarse:h-10 pointer-coarse:leading-10';

/** The pages that it is given, as a list of contents above the one that is open; a fault of one leaves the others and the stems. */
export function SidePanel({ pages }: { pages: readonly PageSpec[] }) {
  const open = useBench((s) => s.ui.page);
  const { getState } = useBenchStore();
  const column = Math.ceil(pages.length / 2);
  return (
    <aside
      id="page"
      tabIndex={-1}
      className="flex contain-content w-[350px] shrink-0 flex-col border-l border-line bg-surface outline-none narrow:min-h-0 narrow:w-full narrow:shrink narrow:basis-0 narrow:grow-[2] narrow:border-t narrow:border-l-0 low:w-[300px]"
      aria-label="Pages of the part"
    >
      <Tabs.Root value={open} onValueChange={(p) => getState().setUi({ page: p })} className="flex min-h-0 flex-1 flex-col">
        <Tabs.List
          className="grid grid-flow-col gap-x-3 border-b border-line px-3 py-2"
          style={{ gridTemplateRows: `repeat(${column}, auto)`, gridAutoColumns: '1fr' }}
          aria-label="Contents"
        >
          {pages.map((spec) => (
            <Tabs.Trigger
              key={spec.id}
              value={spec.id}
              className={entry}
              aria-labelledby={`title-${spec.id}`}
              aria-describedby={`figure-${spec.id}`}
              aria-keyshortcuts={`P ${spec.letter.toUpperCase()}`}
              title={`P, then ${spec.letter.toUpperCase()}`}
            >
              <Marked id={`title-${spec.id}`} word={spec.title} letter={spec.letter} />
              <span id={`figure-${spec.id}`} className={words}>
                <Figure spec={spec} />
              </span>
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {pages.map((spec) => (
          <Tabs.Content key={spec.id} value={spec.id} className="flex min-h-0 flex-1 flex-col" tabIndex={-1}>
            <Opened spec={spec} />
          </Tabs.Content>
        ))}
      </Tabs.Root>
    </aside>
  );
}

/** A page scrolls where it was left, with the sections open that were. */
function Opened({ spec: { id, title, about, open = NONE, Page } }: { spec: PageSpec }) {
  const { getState } = useBenchStore();
  const sections = useBench((s) => s.ui.sections[id]) ?? open;
  const goTo = useBench((s) => (s.ui.goTo?.page === id ? s.ui.goTo : null));
  const wanted = goTo?.section ?? null;
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const frame = box.current;
    if (!frame) return;
    frame.scrollTop = scrolled.get(id) ?? 0;
    const note = () => scrolled.set(id, frame.scrollTop);
    frame.addEventListener('scroll', note, { passive: true });
    return () => frame.removeEventListener('scroll', note);
  }, [id]);
  // Led here by a key: the page has the focus, or the section that was asked for takes it.
  useEffect(() => {
    if (!goTo) return;
    const { section } = goTo;
    if (section === null) return box.current?.focus();
    const { ui, setUi } = getState();
    const now = ui.sections[id] ?? open;
    if (!now.includes(section)) setUi({ sections: { ...ui.sections, [id]: [...now, section] } });
  }, [getState, goTo, id, open]);
  return (
    <div ref={box} tabIndex={-1} onKeyDown={walkSections} className="relative min-h-0 flex-1 overflow-auto px-5 py-4 outline-none">
      <div className="mb-2 flex items-center justify-between">
        <h2 className="font-serif text-lg font-semibold">{title}</h2>
        <Help about={`the page ${title}`} text={about} className="-mr-2" />
      </div>
      <ErrorBoundary fallback={(error, again) => <Fault error={error} what={`The page ${title} cannot be shown.`} again={again} />}>
        <OpenSections
          value={{
            open: sections,
            goTo: goTo && wanted !== null ? { section: wanted, n: goTo.n } : null,
            set: (next) => getState().setUi({ sections: { ...getState().ui.sections, [id]: next } }),
          }}
        >
          <Page />
        </OpenSections>
      </ErrorBoundary>
    </div>
  );
}

/** On the page itself and on its sections up and down go from section to section; headings that open something have arrows of their own. */
function walkSections(e: KeyboardEvent<HTMLDivElement>) {
  const by = { ArrowDown: 1, ArrowUp: -1 }[e.key];
  const on = e.target as HTMLElement;
  if (by === undefined || !(on === e.currentTarget || on.matches('section'))) return;
  const stops = [...e.currentTarget.querySelectorAll<HTMLElement>('section[aria-label], h3 > button')].filter(
    (s) => s.offsetParent !== null,
  );
  const next = stops[stops.indexOf(on) + by];
  if (!next) return;
  e.preventDefault();
  e.stopPropagation();
  if (next.matches('section')) next.tabIndex = -1;
  next.focus();
  next.scrollIntoView({ block: 'nearest' });
}

const NONE: readonly string[] = [];

/** How far each page was scrolled. */
const scrolled = new Map<string, number>();

function Marked({ id, word, letter }: { id: string; word: string; letter: string }) {
  const at = word.toLowerCase().indexOf(letter);
  return (
    <span id={id}>
      {word.slice(0, at)}
      <span className="underline decoration-1 underline-offset-[3px]">{word[at]}</span>
      {word.slice(at + 1)}
    </span>
  );
}

function Figure({ spec: { figure, useFigure } }: { spec: PageSpec }) {
  // Which of the two a page has never changes.
  return useFigure ? <FoundFigure useFigure={useFigure} /> : figure ? <StateFigure figure={figure} /> : null;
}

const words = 'truncate text-sm font-normal text-faint group-data-[state=active]:text-accent';

function StateFigure({ figure }: { figure: NonNullable<PageSpec['figure']> }) {
  return useBench(figure);
}

function FoundFigure({ useFigure }: { useFigure: NonNullable<PageSpec['useFigure']> }) {
  return useFigure();
}
