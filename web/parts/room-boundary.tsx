import { Component, type ReactNode } from 'react';
import { Button } from './button.tsx';

interface BoundaryState {
  error: Error | null;
}

/** What fails in a room stays in it: the bar above goes on, and the room can be tried again. */
export class RoomBoundary extends Component<{ children: ReactNode }, BoundaryState> {
  override state: BoundaryState = { error: null };

  static getDerivedStateFromError(error: unknown): BoundaryState {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  override render(): ReactNode {
    const { error } = this.state;
    if (!error) return this.props.children;
    // A script that did not load is remembered as missing by the page: only the page anew gets it.
    const missing = /dynamically imported|import.*module|Failed to fetch/i.test(error.message);
    const again = (): void => (missing ? window.location.reload() : this.setState({ error: null }));
    return (
      <div className="flex h-full flex-col items-center justify-center gap-4 p-8 text-center" role="alert">
        <p>
          {missing
            ? 'A part of this room could not be loaded. What you did is kept; try again once Clyvo answers.'
            : 'This room stopped working. What you did is kept.'}
        </p>
        {!missing && <p className="max-w-xl font-mono text-[12px] text-ink-2">{error.message}</p>}
        <Button look="primary" onClick={again}>
          Try again
        </Button>
      </div>
    );
  }
}
