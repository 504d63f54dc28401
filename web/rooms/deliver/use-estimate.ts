import { useEffect, useEffectEvent, useState } from 'react';
import type { Document } from '../../../core/document/document.ts';
import { withSound, type ExportWanted } from '../../data/exports.ts';
import { sentenceOf } from '../../data/notices.ts';
import { estimateExport } from '../../workers/export-client.ts';

export type Estimate = { bytes: number } | { problem: string } | 'measuring' | null;

/** Settings and document are still while this long nothing changed, in milliseconds. */
const still = 700;

/**
 * How large the file will be that would be made now, measured on a few of its frames; null while there is nothing to measure.
 * @param order what would be exported; null where that is nothing, or something else needs the machine
 * @param key changes with everything the size depends on
 */
export function useEstimate(order: ExportWanted | null, key: string): Estimate {
  const [found, setFound] = useState<{ key: string; document: Document | null; estimate: Estimate }>({
    key: '',
    document: null,
    estimate: null,
  });
  const wanted = order !== null;
  const measure = useEffectEvent((signal: AbortSignal): void => {
    const ask = async (): Promise<Estimate> => {
      const bytes = await estimateExport(await withSound(order!), signal);
      return bytes === null ? null : { bytes };
    };
    ask()
      .catch((error: unknown): Estimate => ({ problem: sentenceOf(error) }))
      .then(
        (estimate) => {
          if (!signal.aborted) setFound({ key, document: order!.document, estimate });
        },
        () => undefined,
      );
  });
  const document = order?.document;
  useEffect(() => {
    if (!wanted) return;
    const controller = new AbortController();
    const begin = setTimeout(() => measure(controller.signal), still);
    return () => {
      clearTimeout(begin);
      controller.abort();
    };
  }, [wanted, key, document]);
  if (!wanted) return null;
  return found.key === key && found.document === document ? found.estimate : 'measuring';
}
