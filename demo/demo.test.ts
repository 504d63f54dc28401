import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { readDocument, emptyDocument } from '../core/document/document.ts';
import { photograph } from './marcher/march.ts';
import { capsule, cylinder, roundBox, sphere, torus } from './marcher/shapes.ts';
import { demoProjects } from './projects.ts';
import { sceneNames, scenes } from './scenes/index.ts';

const options = { width: 60, height: 40, samples: 1 };

describe('demo photographs', () => {
  it('ship as 2400 x 1600 JPEGs', async () => {
    for (const name of sceneNames) {
      const file = join(import.meta.dirname, 'pictures', `${name}.jpg`);
      expect(existsSync(file)).to.equal(true);
      const { width, height, format } = await sharp(file).metadata();
      expect([width, height, format]).to.deep.equal([2400, 1600, 'jpeg']);
    }
  });

  it('are the same pixels every time, whole or in rows', () => {
    const scene = scenes.lantern({ withSubject: true });
    const whole = photograph(scene, options).picture.data;
    const low = photograph(scene, { ...options, fromRow: 20 }).picture.data;
    expect(Buffer.from(whole.subarray(20 * 60 * 4)).equals(Buffer.from(low))).to.equal(true);
  });

  it('know which samples hit the subject: none without it, some but not all with it', () => {
    for (const name of sceneNames) {
      const share = (withSubject: boolean): number => {
        const { data } = photograph(scenes[name]({ withSubject }), options).alpha;
        return data.reduce((sum, a) => sum + a, 0) / 255 / data.length;
      };
      expect(share(false)).to.equal(0);
      expect(share(true)).to.be.within(0.03, 0.75);
    }
  });

  it('know what the subject alone adds: all of a pixel it fills, nothing of one it does not touch, less than all between', () => {
    const { picture, alpha, front } = photograph(scenes.lantern({ withSubject: true }), options);
    for (let i = 0; i < alpha.data.length; i++) {
      const a = alpha.data[i]!;
      for (let c = 0; c < 4; c++) {
        const [own, whole] = [front.data[i * 4 + c]!, picture.data[i * 4 + c]!];
        if (c === 3) expect(own).to.equal(a);
        else if (a === 255 || a === 0) expect(own).to.be.closeTo(a === 0 ? 0 : whole, 1);
        else expect(own).to.be.at.most(whole + 3);
      }
    }
  });

  it('measure the distance of what is seen: the near deck nearer than the far water', () => {
    const { depth } = photograph(scenes.breakwater({ withSubject: true }), options);
    expect(depth.data[38 * 60 + 30]).to.be.lessThan(6);
    expect(depth.data[22 * 60 + 58]).to.be.greaterThan(15);
  });
});

describe('shapes', () => {
  it('have their surface where geometry says', () => {
    expect(sphere(3, 4, 0, 5)).to.equal(0);
    expect(roundBox(2, 0, 0, 1, 1, 1, 0.1)).to.be.closeTo(1, 1e-9);
    expect(roundBox(2, 2, 0, 1, 1, 1, 0)).to.be.closeTo(Math.SQRT2, 1e-9);
    expect(capsule(0, 5, 0, 0, 0, 0, 0, 3, 0, 1, 1)).to.be.closeTo(1, 1e-9);
    expect(cylinder(3, 0, 0, 1, 2, 0)).to.be.closeTo(1, 1e-9);
    expect(torus(5, 0, 0, 3, 0.5)).to.be.closeTo(1.5, 1e-9);
  });
});

describe('demo projects', () => {
  it('have recipes whose strokes lie in their picture', () => {
    for (const { recipe } of demoProjects) {
      for (const { points } of [...recipe.keep, ...recipe.drop]) {
        for (const [x, y] of points) expect(x >= 0 && x <= 2400 && y >= 0 && y <= 1600).to.equal(true);
      }
    }
  });

  it('start as documents that can be read', () => {
    for (const demo of demoProjects) {
      const document = emptyDocument(demo.name, demo.frame, demo.seconds, 'shot-1');
      expect(readDocument(document)).to.deep.equal(document);
    }
  });
});
