/** The picture that an app reads a secret from: a QR code (ISO/IEC 18004) as SVG, with the quiet zone of four modules around it. */
export async function pictureOf(text: string): Promise<string> {
  const { default: codes } = await import('bwip-js/node')
  const options = { bcid: 'qrcode', text, eclevel: 'M', paddingwidth: 4, paddingheight: 4, backgroundcolor: 'FFFFFF' }
  return codes.toSVG(options)
}
