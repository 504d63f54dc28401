import { crc32, deflateSync } from 'node:zlib';

/** Signature, and the header chunk with its length, type, 13 bytes and checksum. */
const afterHeader = 8 + 25;

/** The same PNG saying that it is in the space of an ICC profile (chunk iCCP of PNG, third edition). */
export function pngWithProfile(png: Buffer, profile: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from('iCCPprofile\0\0', 'latin1'), deflateSync(profile)]);
  const ends = Buffer.alloc(8);
  ends.writeUInt32BE(body.length - 4, 0);
  ends.writeUInt32BE(crc32(body), 4);
  const chunk = Buffer.concat([ends.subarray(0, 4), body, ends.subarray(4)]);
  return Buffer.concat([png.subarray(0, afterHeader), chunk, png.subarray(afterHeader)]);
}
