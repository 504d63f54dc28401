import { useEffect, useRef, useState } from 'react';
import type { Document } from '../../../../core/document/document.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { BareClient } from '../../../workers/bare-client.ts';
import type { BareAnswer } from '../../../workers/bare-messages.ts';

const none: number[] = [];

/** Bare share of every frame of the shot, a moment after each change; empty until the shot was looked at once. */
export function useBareFrames(document: Document, shot: Shot): number[] {
  const [found, setFound] = useState<BareAnswer | null>(null);
  const client = useRef<BareClient | null>(null);
  useEffect(() => {
    const made = new BareClient(setFound);
    client.current = made;
    return () => made.close();
  }, []);
  useEffect(() => client.current?.check({ document, shot: shot.id }), [document, shot.id]);
  return found?.shot === shot.id ? found.bare : none;
}
