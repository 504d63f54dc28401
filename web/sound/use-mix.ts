import { useQuery } from '@tanstack/react-query';
import type { Document } from '../../core/document/document.ts';
import { projectLength } from '../../core/scene/sequence.ts';
import type { Samples } from '../../core/sound/samples.ts';
import { mixKey, mixOf } from './mixing.ts';

/** What is heard under all shots; null while there is nothing, or it is not mixed yet. */
export function useMix(document: Document): Samples | null {
  const length = projectLength(document);
  const mix = useQuery({
    queryKey: ['mix', mixKey(document, 0, length)],
    queryFn: () => mixOf(document, 0, length),
    enabled: document.sounds.some(({ muted }) => !muted),
    staleTime: Infinity,
    // A mix is large; the one before is not needed any more.
    gcTime: 1000,
  });
  return mix.data ?? null;
}
