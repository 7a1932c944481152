'use client';

import { Sections } from '@/ui/Section';
import { CellsSection } from './CellsSection';
import { LinesSection } from './LinesSection';
import { OrderSection } from './OrderSection';

/** The part's bars: their order and number, meter and lines, and rhythm cells to fill them with. */
export function BarsPage() {
  return (
    <Sections>
      <OrderSection />
      <CellsSection />
      <LinesSection />
    </Sections>
  );
}
