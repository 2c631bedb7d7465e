import { type Metadata } from './exifBlock';
import { xmlText } from './xmlText';

/** IPTC NewsCodes, digital source type: several captured pictures joined into one. */
const COMPOSITE = 'http://cv.iptc.org/newscodes/digitalsourcetype/compositeCapture';

/** An XMP packet (ISO 16684-1) with the title and, where it is wanted, the IPTC disclosure; undefined when there is nothing to say. */
export function xmpPacket({ title, disclosed }: Metadata): Uint8Array | undefined {
  if (!title && !disclosed) return undefined;
  const parts = [
    title
      ? `<dc:title><rdf:Alt><rdf:li xml:lang="x-default">${xmlText(title)}</rdf:li></rdf:Alt></dc:title>`
      : '',
    disclosed ? `<Iptc4xmpExt:DigitalSourceType>${COMPOSITE}</Iptc4xmpExt:DigitalSourceType>` : '',
  ];
  return new TextEncoder().encode(
    `<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?><x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:Iptc4xmpExt="http://iptc.org/std/Iptc4xmpExt/2008-02-29/">${parts.join('')}</rdf:Description></rdf:RDF></x:xmpmeta><?xpacket end="w"?>`,
  );
}
