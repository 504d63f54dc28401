import { useQuery } from '@tanstack/react-query';
import type { Document } from '../../core/document/document.ts';
import type { FrameRange } from '../../core/scene/loop.ts';
import { projectLength } from '../../core/scene/sequence.ts';
import type { Samples } from '../../core/sound/samples.ts';
import { loopMixOf, mixKey, mixOf } from './mixing.ts';

/**
 * What is heard under all shots, or of a clip with what is done to its ends; null while there is nothing, or it is not mixed
 * yet.
 */
export function useMix(document: Document, loop: FrameRange | null): Samples | null {
  const { first, end } = loop ?? { first: 0, end: projectLength(document) };
  const mix = useQuery({
    queryKey: ['mix', loop !== null, mixKey(document, first, end)],
    queryFn: () => (loop ? loopMixOf(document, { first, end }) : mixOf(document, first, end)),
    enabled: document.sounds.some(({ muted }) => !muted),
    staleTime: Infinity,
    // A mix is large; the one before is not needed any more.
    gcTime: 1000,
  });
  return mix.data ?? null;
}
