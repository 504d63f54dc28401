import { setFocusKey } from '../../../../core/edits/camera-edits.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { useStage } from '../stage-state.ts';
import { TrackRow, type Track } from './track.tsx';

/** The two Framings at the ends of the shot, and the keyframes of the focus. */
export function CameraRows({ shot, track }: { shot: Shot; track: Track }) {
  const { dispatch } = useProject();
  const { setFrame } = useStage();
  const { across } = track;
  const focus = 'keys' in shot.camera.focus ? shot.camera.focus.keys : [];
  const last = across(shot.camera.returns ? shot.length / 2 : shot.length - 1);
  return (
    <>
      <TrackRow name="Framing">
        <div className="absolute top-1/2 h-0.5 bg-pine/35" style={{ left: across(0), width: last - across(0) }} />
        {[across(0), last].map((x) => (
          <svg
            key={x}
            width={11}
            height={18}
            className="absolute top-[3px] -translate-x-1/2"
            style={{ left: x }}
            aria-hidden
          >
            <path d="M1.5 5.5 5.5 1.5 9.5 5.5V16.5H1.5Z" fill="#0e5b50" stroke="#f5f2eb" strokeWidth={1} />
          </svg>
        ))}
      </TrackRow>
      {focus.length > 0 && (
        <TrackRow name="Focus">
          {focus.map((key) => (
            <button
              key={key.frame}
              type="button"
              aria-label={`Focus keyframe at frame ${key.frame}`}
              title="Press to go there, double-click deletes it"
              className="absolute top-0.5 flex h-5 w-4 -translate-x-1/2 items-center justify-center"
              style={{ left: across(key.frame) }}
              onClick={() => setFrame(key.frame)}
              onDoubleClick={() => dispatch(setFocusKey(shot.id, key.frame, null))}
            >
              <svg width={11} height={18} aria-hidden>
                <path d="M1.5 5.5 5.5 1.5 9.5 5.5V16.5H1.5Z" fill="#0e5b50" stroke="#f5f2eb" strokeWidth={1} />
              </svg>
            </button>
          ))}
        </TrackRow>
      )}
    </>
  );
}
