import type { Metadata } from 'next';
import Link from 'next/link';

export const metadata: Metadata = { title: 'Page not found' };

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl px-6 py-24 text-center">
      <h1 className="font-serif text-2xl">There is nothing at this address.</h1>
      <p className="mt-2 mb-6 text-faint">The part may have been deleted, or the address has a typo.</p>
      <Link href="/" className="underline underline-offset-4">
        Back to the Shelf
      </Link>
    </main>
  );
}
