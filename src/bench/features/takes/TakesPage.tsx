'use client';

import { Section, Sections } from '@/ui/Section';
import { useRecorded } from '../../recording/context';
import { AfterTake } from './AfterTake';
import { BesideSection } from './BesideSection';
import { FollowClock } from './FollowClock';
import { InputSection } from './InputSection';
import { RecordSection } from './RecordSection';
import { SendOut } from './SendOut';
import { StepEntry } from './StepEntry';
import { TakesList } from './TakesList';

/** Recording: from what, how, what was recorded, and where performed hits go. */
export function TakesPage() {
  const latency = useRecorded((s) => s.input.latencyMs);
  return (
    <div className="space-y-4">
      <RecordSection />
      <AfterTake />
      <Sections>
        <Section name="takes" title="Recorded takes">
          <TakesList />
        </Section>
        <Section name="input" title="Play from" note={`latency ${latency} ms`}>
          <InputSection />
        </Section>
        <Section name="steps" title="Step entry">
          <StepEntry />
        </Section>
        <Section name="beside" title="Backing track">
          <BesideSection />
        </Section>
        <Section name="clock" title="MIDI clock">
          <FollowClock />
        </Section>
        <Section name="out" title="MIDI out">
          <SendOut />
        </Section>
      </Sections>
    </div>
  );
}
