'use client';

import { useEffect } from 'react';
import { Toaster } from 'sonner';

/** Where messages are shown. `onShown` is called once it listens. */
export default function Messages({ onShown }: { onShown: () => void }) {
  return (
    <>
      <Toaster
        // Over the side panel, where it hides neither hits nor strip nor pads.
        position="bottom-right"
        offset={16}
        duration={7000}
        toastOptions={{
          style: {
            width: 318,
            background: 'var(--surface)',
            color: 'var(--ink)',
            border: '1px solid var(--strong)',
            fontFamily: 'var(--font-sans)',
          },
        }}
      />
      <Listening onShown={onShown} />
    </>
  );
}

/** Effects run in order: the one before listens already when this one's does. */
function Listening({ onShown }: { onShown: () => void }) {
  useEffect(onShown, [onShown]);
  return null;
}
