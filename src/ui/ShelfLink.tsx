import Link from 'next/link';

/** The way back, as a button among others. */
export function ShelfLink() {
  return (
    <Link href="/" className="inline-flex h-8 items-center rounded-md border border-strong px-3 hover:bg-sunk">
      Back to the Shelf
    </Link>
  );
}
