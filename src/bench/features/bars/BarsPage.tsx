'use client';

import { Sections } from '@/ui/Section';
import { CellsSection } from './CellsSection';
import { FillsSection } from './FillsSection';
import { LinesSection } from './LinesSection';
import { OrderSection } from './OrderSection';
import { VarySection } from './VarySection';

/** The part's bars: their order and number, meter and lines, rhythm cells and fills. */
export function BarsPage() {
  return (
    <Sections>
      <OrderSection />
      <CellsSection />
      <FillsSection />
      <VarySection />
      <LinesSection />
    </Sections>
  );
}
