import { useEffect, useState } from 'react';
import { drawingOf } from '../../../../core/formats/svg/drawing-list.ts';
import type { Drawing } from '../../../../core/formats/svg/drawing.ts';
import { notifyError } from '../../../data/notices.ts';
import { loadDrawing } from '../../../workers/drawings.ts';

/** A drawing once it is read; undefined until then. */
export function useDrawing(file: string): Drawing | undefined {
  const [, setReady] = useState(file);
  useEffect(() => {
    let wanted = true;
    loadDrawing(file)
      .then(() => wanted && setReady(`${file} read`))
      .catch(notifyError);
    return () => void (wanted = false);
  }, [file]);
  return drawingOf(file);
}
