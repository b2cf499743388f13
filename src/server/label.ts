import bwipjs from 'bwip-js/node';

/** A 2-D code (QR, ISO/IEC 18004) of an assembly's number, as SVG: scanned, it arrives as that number typed. */
export const codeOf = (number: string): string =>
  bwipjs.toSVG({ bcid: 'qrcode', text: number, scale: 2, padding: 0 });
