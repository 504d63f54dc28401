import { useEffect, useState } from 'react';
import { facesOf, type Document } from '../../../../core/document/document.ts';
import { loadFacesOf } from '../../../workers/faces.ts';

/** Loads the faces of a document's words; what uses it is shown again once they are there. */
export function useFacesOf(document: Document): void {
  const [, setReady] = useState(0);
  const faces = facesOf(document).join();
  useEffect(() => {
    let wanted = true;
    void loadFacesOf(document).then(() => wanted && setReady((n) => n + 1));
    return () => void (wanted = false);
    // Only other faces are a reason to look again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [faces]);
}
