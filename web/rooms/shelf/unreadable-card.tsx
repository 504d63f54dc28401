import { useQueryClient } from '@tanstack/react-query';
import { Download, History, Trash2 } from 'lucide-react';
import { dataUrl, deleteProject, recoverProject, type UnreadableProject } from '../../data/api.ts';
import { notify, notifyError } from '../../data/notices.ts';
import { Button } from '../../parts/button.tsx';

/** A project whose stored state cannot be read: what can still be done with it. */
export function UnreadableCard({ project: { id, name } }: { project: UnreadableProject }) {
  const client = useQueryClient();
  const attempt = (work: () => Promise<unknown>): void => {
    work().then(() => client.invalidateQueries({ queryKey: ['projects'] }), notifyError);
  };
  const recover = async (): Promise<void> => {
    const { document } = await recoverProject(id);
    notify('done', `"${document.name}" holds the last state that can be read.`);
  };
  return (
    <li className="flex flex-col rounded-lg border border-brick/60 bg-white/60 p-3" aria-label={name}>
      <div className="truncate font-semibold">{name}</div>
      <p className="mt-1 flex-1 text-[13px] text-brick">
        This project cannot be read: it is damaged, or was made by a newer Clyvo.
      </p>
      <div className="mt-3 flex flex-col items-start gap-1">
        <Button icon={<History size={14} />} onClick={() => attempt(recover)}>
          Open the last readable state
        </Button>
        <a
          href={dataUrl(id)}
          download={`${name}.json`}
          className="inline-flex h-8 items-center gap-1.5 rounded-md px-3 text-[13px] font-medium hover:bg-paper-2"
        >
          <Download size={14} />
          Save its data
        </a>
        <Button look="danger" icon={<Trash2 size={14} />} onClick={() => attempt(() => deleteProject(id))}>
          Delete
        </Button>
      </div>
    </li>
  );
}
