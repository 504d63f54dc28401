import { ImagePlus } from 'lucide-react';
import { Link } from 'react-router';
import type { Document } from '../../../core/document/document.ts';
import type { Shot } from '../../../core/document/shot.ts';
import { hangables, hangInShot } from '../../../core/edits/lift-edit.ts';
import { newId, useProject } from '../../data/project.ts';
import { GuideLink } from '../../help/help-button.tsx';
import { Button } from '../../parts/button.tsx';
import { useStage } from './stage-state.ts';

/** A shot without layers offers what there is to hang, or says where to make it. */
export function EmptyShot({ document, shot }: { document: Document; shot: Shot }) {
  const { id, dispatch } = useProject();
  const { selectLayer } = useStage();
  const there = hangables(document);
  return (
    <section
      className="flex flex-col items-center justify-center gap-3 overflow-auto bg-field p-6"
      aria-label="Empty shot"
    >
      <p className="rounded-lg bg-paper px-4 py-2 text-ink">
        {there.length > 0 ? 'Nothing hangs in this shot yet. Hang what there is, or ' : ''}
        <Link className="underline" to={`/project/${id}/cut`}>
          {there.length > 0 ? 'lift something else out' : 'Lift something out in the Cut room'}
        </Link>
        {there.length > 0 ? '. ' : ', and it hangs here. '}
        <GuideLink chapter="place-layers-in-depth">How layers hang in depth</GuideLink>
      </p>
      {there.length > 0 && (
        <ul className="flex max-w-xl flex-wrap justify-center gap-2">
          {there.map((one) => (
            <li key={`${one.kind} ${one.id}`}>
              <Button
                icon={<ImagePlus size={14} />}
                onClick={() => {
                  const layer = newId('layer');
                  dispatch(hangInShot(shot.id, one, layer));
                  selectLayer(layer);
                }}
              >
                {one.name}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
