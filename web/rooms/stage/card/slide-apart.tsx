import { Expand } from 'lucide-react';
import { useState } from 'react';
import type { Shot } from '../../../../core/document/shot.ts';
import { slideApart, slideWays, type Slide } from '../../../../core/edits/slide-edits.ts';
import { useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { SecondsField } from '../../../parts/seconds-field.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';

interface SlideApartProps {
  shot: Shot;
  ids: string[];
  frame: number;
  /** Of the frame: its width and its rate. */
  width: number;
  rate: number;
}

/** Lets several layers slide apart, or together, by unlike lengths, as keyframes from the playhead on. */
export function SlideApart({ shot, ids, frame, width, rate }: SlideApartProps) {
  const { dispatch } = useProject();
  const [slide, setSlide] = useState<Slide>({
    way: 'outwards',
    distance: Math.round(width / 5),
    uneven: 0.4,
    seed: 1,
    frames: rate,
    together: false,
    bend: 0,
    turn: 0,
    later: 0,
  });
  const change = (next: Partial<Slide>): void => setSlide({ ...slide, ...next });
  return (
    <section className="border-t border-line py-2">
      <h3 className="text-[13px] font-semibold text-pine">Slide apart</h3>
      <SmallSelect
        label="Direction"
        value={slide.way}
        options={plainOptions(slideWays)}
        onChange={(way) => change({ way })}
      />
      <NumberField
        label="Distance"
        unit="px"
        min={1}
        max={20_000}
        value={slide.distance}
        onChange={(distance) => change({ distance })}
      />
      <NumberField
        label="Unevenness"
        unit="%"
        min={0}
        max={100}
        step={5}
        value={slide.uneven * 100}
        onChange={(v) => change({ uneven: v / 100 })}
      />
      <NumberField
        label="Slide seed"
        min={0}
        max={99999}
        value={slide.seed}
        onChange={(v) => change({ seed: Math.round(v) })}
      />
      <SecondsField label="Duration" frames={slide.frames} rate={rate} onChange={(frames) => change({ frames })} />
      <NumberField
        label="Bend"
        unit="%"
        min={-200}
        max={200}
        step={5}
        value={slide.bend * 100}
        onChange={(v) => change({ bend: v / 100 })}
      />
      <NumberField label="Turn" unit="°" value={slide.turn} onChange={(turn) => change({ turn })} />
      <NumberField
        label="Column delay"
        unit="fr"
        min={0}
        max={200}
        value={slide.later}
        onChange={(v) => change({ later: Math.round(v) })}
      />
      <SwitchRow label="Together instead" on={slide.together} onChange={(together) => change({ together })} />
      <Button
        className="w-full"
        icon={<Expand size={14} />}
        title="Two keyframes of each layer, from the playhead on"
        onClick={() => dispatch(slideApart(shot.id, ids, frame, slide))}
      >
        {slide.together ? 'Slide together' : 'Slide apart'}
      </Button>
    </section>
  );
}
