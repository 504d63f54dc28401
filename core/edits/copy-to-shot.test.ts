import { expect } from 'chai';
import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { groupLayers } from './arrange-edits.ts';
import { setArrival } from './arrival-edits.ts';
import { copyToShot } from './copy-to-shot.ts';
import { addFinish } from './finish-edits.ts';
import { setWandering } from './key-edits.ts';
import { addKey, fastenLayer, setLayer, setProperty } from './layer-edits.ts';
import { addShot } from './shot-edits.ts';
import { apply, card, empty, near, shotOf } from './test-cards.ts';

const sway = {
  region: null,
  soft: 0,
  direction: 90,
  size: 50,
  strength: 5,
  pinned: 'none',
  shade: 0,
  period: 30,
  loops: true,
};
const copied = (document: Document, ...ids: string[]): Document =>
  apply(
    document,
    copyToShot(
      'shot',
      'next',
      ids.map((of) => ({ of, id: `${of}-copy` })),
      0,
    ),
  );
const drawsAt = (document: Document, shot: number, frame: number) =>
  evaluateFrame(document, document.shots[shot]!, frame).draws;
const layerIn = (document: Document, id: string): Layer => document.shots[1]!.layers.find((l) => l.id === id)!;

describe('layers copied into another shot', () => {
  const moving = () =>
    apply(
      empty(),
      card('boat', 3, [-40, 0]),
      card('mast', 3, [-40, -30]),
      card('quay', 5),
      addShot('shot', 'next'),
      addKey('shot', 'boat', 'position', 0, [-40, 0]),
      addKey('shot', 'boat', 'position', 40, [60, 10]),
      fastenLayer('shot', 'mast', 'boat', 0),
      addFinish('shot', 'boat', 'outline', 'line'),
      setArrival('shot', ['boat'], 'fade'),
      setLayer('Window', 'shot', 'mast', { window: { to: 'quay', how: 'inside', by: 'alpha', free: null } }),
      setWandering('shot', 'mast', 'rotation', 'follow', { layer: 'quay', of: 'x', factor: 2, delay: 0 }),
    );

  it('look and move there as they do here, and stay as they are here', () => {
    const document = moving();
    const after = copied(document, 'boat');
    expect(after.shots[0]).to.deep.equal(document.shots[0]);
    for (const frame of [5, 20, 40]) {
      const [here, there] = [0, 1].map((k) => drawsAt(after, k, frame).find((d) => /^boat/.test(d.layer))!);
      near(there!.matrix, here!.matrix);
      expect(there!.opacity).to.be.closeTo(here!.opacity, 1e-9);
      expect(there!.finishes!.list).to.deep.equal(here!.finishes!.list);
    }
    expect(layerIn(after, 'boat-copy').name).to.equal('boat');
  });

  it('keep what ties them to one another, and let go of what stays, where they are', () => {
    const both = copied(moving(), 'boat', 'mast');
    expect(both.shots[1]!.layers.map(({ id }) => id)).to.deep.equal(
      both.shots[0]!.layers.map(({ id }) => id)
        .filter((id) => id !== 'quay')
        .map((id) => `${id}-copy`),
    );
    expect(layerIn(both, 'mast-copy').fastened!.to).to.equal('boat-copy');
    expect([layerIn(both, 'mast-copy').window, layerIn(both, 'mast-copy').rotation.follow]).to.deep.equal([
      null,
      undefined,
    ]);
    const followed = copied(moving(), 'mast', 'quay');
    expect(layerIn(followed, 'mast-copy').window!.to).to.equal('quay-copy');
    expect(layerIn(followed, 'mast-copy').rotation.follow!.layer).to.equal('quay-copy');
    expect(layerIn(followed, 'mast-copy').fastened).to.equal(null);
    near(
      drawsAt(followed, 1, 0).find((d) => d.layer === 'mast-copy')!.matrix,
      drawsAt(followed, 0, 0).find((d) => d.layer === 'mast')!.matrix,
    );
  });

  it('go with all that is in them where they are groups; a member alone leaves its group', () => {
    const grouped = apply(moving(), groupLayers('shot', ['boat', 'mast'], { id: 'group', name: 'Boat' }));
    const after = copied(grouped, 'group');
    const members = after.shots[1]!.layers.filter(({ group }) => group === 'group-copy');
    expect(members.map(({ name }) => name).sort()).to.deep.equal(['boat', 'mast']);
    expect(members.find(({ name }) => name === 'mast')!.fastened!.to).to.equal(
      members.find(({ name }) => name === 'boat')!.id,
    );
    expect(layerIn(copied(grouped, 'boat'), 'boat-copy').group).to.equal(null);
  });

  it('wave on: like one another where both came, else as what they waved like', () => {
    const waving = apply(
      moving(),
      setLayer('Sway', 'shot', 'quay', { sways: [{ ...sway, id: 'first', phase: 0, like: null }] as Layer['sways'] }),
      setLayer('Sway', 'shot', 'boat', {
        sways: [{ ...sway, id: 'second', size: 10, strength: 1, phase: 0.25, like: 'first' }] as Layer['sways'],
      }),
    );
    const [both, alone] = [copied(waving, 'quay', 'boat'), copied(waving, 'boat')].map(
      (d) => layerIn(d, 'boat-copy').sways[0]!,
    );
    expect(both!.like).to.equal('quay-copy-s0');
    expect([alone!.like, alone!.size, alone!.strength, alone!.phase]).to.deep.equal([null, 50, 5, 0.25]);
  });

  it('can be copied twice, and each copy is changed by itself', () => {
    const once = copied(moving(), 'boat');
    const twice = apply(once, copyToShot('shot', 'next', [{ of: 'boat', id: 'boat-again' }], 0));
    expect(twice.shots[1]!.layers.map(({ id }) => id)).to.deep.equal(['boat-again', 'boat-copy']);
    expect(
      setProperty('next', 'boat-again', 'opacity', 0, 0.5).apply(twice).shots[1]!.layers[0]!.opacity,
    ).not.to.deep.equal(shotOf(twice).layers.find((l) => l.id === 'boat')!.opacity);
  });
});
