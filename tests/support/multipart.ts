/** A POST request with fields as multipart/form-data, made of bytes: quicker than FormData for large files. */
export function formRequest(fields: Readonly<Record<string, string | Uint8Array>>): Request {
  const parts = Object.entries(fields).flatMap(([name, value]) => [
    Buffer.from(
      `--between\r\nContent-Disposition: form-data; name="${name}"${typeof value === 'string' ? '' : '; filename="file"'}\r\n\r\n`,
    ),
    Buffer.from(value as string),
    Buffer.from('\r\n'),
  ]);
  const body = Buffer.concat([...parts, Buffer.from('--between--\r\n')]) as Buffer<ArrayBuffer>;
  return new Request('http://127.0.0.1/api', {
    method: 'POST',
    body,
    headers: { 'content-type': 'multipart/form-data; boundary=between' },
  });
}
