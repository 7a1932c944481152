'use client';

import { EmptyPicture } from '@/ui/EmptyPicture';
import { Sections } from '@/ui/Section';
import { useBench } from '../../store/context';
import { calmPart } from '../../store/derived';
import { ChanceSection } from './ChanceSection';
import { ChooseSection } from './ChooseSection';
import { CopiesSection } from './CopiesSection';
import { DynamicsSection } from './DynamicsSection';
import { GhostsSection } from './GhostsSection';
import { LengthsSection } from './LengthsSection';
import { MarksSection } from './MarksSection';
import { OrnamentSection } from './OrnamentSection';
import { PlacementSection } from './PlacementSection';
import { useTouched } from './use-touched';

/** The selection in words and numbers, and everything that can be done to it. */
export function HitsPage() {
  const touched = useTouched();
  const empty = useBench((s) => calmPart(s).hits.length === 0);
  if (empty) return <Empty />;
  return (
    <div className="space-y-3">
      <div>
        <p className="first-letter:uppercase" data-testid="touched">
          {touched.what}
        </p>
        {touched.all && <p className="text-sm text-faint">Nothing is selected: these tools change every hit.</p>}
      </div>
      <Sections>
        <ChooseSection />
        <DynamicsSection />
        <PlacementSection />
        <GhostsSection />
        <LengthsSection />
        <ChanceSection />
        <OrnamentSection />
        <MarksSection />
        <CopiesSection />
      </Sections>
    </div>
  );
}

function Empty() {
  return (
    <div className="space-y-3">
      <EmptyPicture />
      <h3 className="font-serif text-base">No hits yet</h3>
      <p className="text-faint">Click an empty step to place a hit. In paint mode (H), drag along a row to paint a hit on every step.</p>
      <p className="text-faint">On the Bars page you can add rhythm cells and edit them.</p>
      <p className="text-faint">By keyboard: C shows the step cursor, Enter places a hit, ? lists the rest.</p>
    </div>
  );
}
