'use client';

import { Component, type ReactNode } from 'react';
import { Button } from './Button';

interface Props {
  children: ReactNode;
  /** What stands in the place of what failed; `again` tries to show it anew. */
  fallback: (error: Error, again: () => void) => ReactNode;
}

/** Keeps a fault within its place: the rest of the screen, and the work, stay. */
export class ErrorBoundary extends Component<Props, { error: Error | null }> {
  override state: { error: Error | null } = { error: null };

  static getDerivedStateFromError(error: unknown) {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  override render(): ReactNode {
    const { error } = this.state;
    return error ? this.props.fallback(error, () => this.setState({ error: null })) : this.props.children;
  }
}

/** A fault of ours, said as one: what happened, and the ways on. */
export function Fault({ error, what, again, children }: { error: Error; what: string; again?: () => void; children?: ReactNode }) {
  return (
    <div role="alert" className="mx-auto max-w-xl px-6 py-10 text-center">
      <h2 className="font-serif text-xl">{what}</h2>
      <p className="mt-2 text-faint">Something went wrong in Nod Sway. Your finished edits are saved.</p>
      <p className="mt-1 mb-5 text-sm text-faint">{error.message}</p>
      <div className="flex flex-wrap justify-center gap-2">
        {again && <Button onClick={again}>Try again</Button>}
        {children}
      </div>
    </div>
  );
}
