'use client';

/** Kept small, since it comes with every place: what a place itself does not catch. */
export default function PlaceFault({ error, reset }: { error: Error; reset: () => void }) {
  const button = 'inline-flex h-8 items-center rounded-md border border-strong px-3 hover:bg-sunk';
  return (
    <main role="alert" className="mx-auto max-w-xl px-6 py-24 text-center">
      <h1 className="font-serif text-2xl">This page cannot be shown.</h1>
      <p className="mt-2 mb-6 text-faint">Something went wrong in Nod Sway. Your finished edits are saved. {error.message}</p>
      <button type="button" className={`${button} mr-2`} onClick={reset}>
        Try again
      </button>
      {/* A full load: whatever broke the page is left behind. */}
      <a href="/" className={button}>
        Back to the Shelf
      </a>
    </main>
  );
}
