import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { bundleUrl, getUsage, type Project } from '../../data/api.ts';
import { notifyError } from '../../data/notices.ts';
import { Button } from '../../parts/button.tsx';
import { sizeOf } from '../../parts/file-size.ts';
import { Sheet } from '../../parts/sheet.tsx';
import { SwitchRow } from '../../parts/switch-row.tsx';

/** Saves a project with all its files as one ZIP. */
export function BundleDialog({ project, onClose }: { project: Project; onClose(): void }) {
  const [exports, setExports] = useState(true);
  const usage = useQuery({ queryKey: ['disk', 'usage'], queryFn: getUsage });
  const own = usage.data?.projects.find(({ id }) => id === project.id);
  const save = (): void => {
    const follow = (url: string): void => {
      // A link, so that the browser writes it straight to the disk however large it is.
      const link = document.createElement('a');
      link.href = url;
      link.download = '';
      link.click();
      onClose();
    };
    bundleUrl(project.id, exports ? 'all' : 'none').then(follow, notifyError);
  };
  return (
    <Sheet title={`Bundle of ${project.document.name}`} size="w-[400px]" onClose={onClose}>
      <div className="p-4">
        <p className="mb-3 text-[13px] text-ink-2">
          The project with every picture, clip, sound and font it needs, as one ZIP: to keep as a backup, to move to
          another machine, or to hand on. <em>Open a bundle</em> on the Shelf brings it in again.
        </p>
        {own && own.exports > 0 && (
          <SwitchRow label={`Earlier exports too (${sizeOf(own.exports)})`} on={exports} onChange={setExports} />
        )}
        <div className="mt-3 flex items-center gap-2">
          <span className="flex-1 font-mono text-[12px] text-ink-2">
            {own && `about ${sizeOf(own.files + (exports ? own.exports : 0))}`}
          </span>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="primary" onClick={save}>
            Save bundle
          </Button>
        </div>
      </div>
    </Sheet>
  );
}
