import { useQuery, useQueryClient } from '@tanstack/react-query';
import { AppWindow, Download, FileImage, FileVideo, Trash2, X } from 'lucide-react';
import { useState } from 'react';
import { exportFormats } from '../../../core/formats/exports.ts';
import { deleteOutput, downloadUrl, listOutputs, type Output } from '../../data/api.ts';
import { dropExport, useExports } from '../../data/exports.ts';
import { notifyError } from '../../data/notices.ts';
import { IconButton } from '../../parts/button.tsx';
import { sizeOf } from '../../parts/file-size.ts';
import { PageDialog } from './page-dialog.tsx';

const fileOf = ({ name, format }: Output): string => `${name}.${exportFormats[format].ending}`;

/** Exports that wait for their turn. */
export function Waiting() {
  const { waiting } = useExports();
  if (waiting.length === 0) return null;
  return (
    <div>
      <h2 className="mb-1 font-semibold">Next in the queue</h2>
      <ul aria-label="Queue" className="flex flex-col">
        {waiting.map(({ id, name, wanted }) => (
          <li key={id} className="flex items-center gap-2 border-b border-line py-1 text-[13px]">
            <span className="min-w-0 flex-1 truncate">{name}</span>
            <span className="font-mono text-[11px] text-ink-2">
              {exportFormats[wanted.format].name} {wanted.width} × {wanted.height}
            </span>
            <IconButton label={`Take ${name} out of the queue`} onClick={() => dropExport(id)}>
              <X size={14} />
            </IconButton>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What was made before, and is kept with the project. */
export function Outputs({ project }: { project: string }) {
  const outputs = useQuery({ queryKey: ['outputs', project], queryFn: () => listOutputs(project) });
  const client = useQueryClient();
  const [paged, setPaged] = useState<Output | null>(null);
  const remove = (output: Output): void => {
    deleteOutput(output.id).then(
      () => client.invalidateQueries({ queryKey: ['outputs', project] }),
      (error: unknown) => notifyError(error),
    );
  };
  return (
    <div>
      <h2 className="mb-1 font-semibold">Earlier exports</h2>
      {paged && <PageDialog output={paged} onClose={() => setPaged(null)} />}
      {outputs.data?.length === 0 && <p className="text-[13px] text-ink-2">Nothing yet. What you make is kept here.</p>}
      <ul className="flex flex-col">
        {outputs.data?.map((output) => (
          <li key={output.id} className="flex items-center gap-2 border-b border-line py-1.5">
            {exportFormats[output.format].still ? (
              <FileImage size={16} className="text-ink-2" />
            ) : (
              <FileVideo size={16} className="text-ink-2" />
            )}
            <div className="min-w-0 flex-1">
              <div className="truncate text-[13px]">{fileOf(output)}</div>
              <div className="font-mono text-[11px] text-ink-2">
                {exportFormats[output.format].name} · {output.width} × {output.height} · {sizeOf(output.bytes)} ·{' '}
                {new Date(output.created).toLocaleString([], { dateStyle: 'short', timeStyle: 'short' })}
              </div>
            </div>
            {exportFormats[output.format].mediaType.startsWith('video/') && (
              <IconButton label={`Put ${fileOf(output)} on a page`} onClick={() => setPaged(output)}>
                <AppWindow size={15} className="text-dusk" />
              </IconButton>
            )}
            <a
              href={downloadUrl(output)}
              download
              aria-label={`Download ${fileOf(output)}`}
              title="Download"
              className="flex size-7 items-center justify-center rounded-md text-dusk hover:bg-paper-2"
            >
              <Download size={15} />
            </a>
            <IconButton label={`Delete ${fileOf(output)}`} onClick={() => remove(output)}>
              <Trash2 size={15} className="text-brick" />
            </IconButton>
          </li>
        ))}
      </ul>
    </div>
  );
}
