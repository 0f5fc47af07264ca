import { authorityCertificate } from '@/server/entry/certificates';
import { refuse } from '../answers';

export const dynamic = 'force-dynamic';

/** The certificate that a telephone can be told to trust. */
export function GET(): Response {
  const found = authorityCertificate();
  if (!found) return refuse(404, [{ path: '$', message: 'there is no certificate; ./start --network makes one' }]);
  return new Response(found.pem, {
    headers: {
      'content-type': 'application/x-x509-ca-cert',
      'content-disposition': 'attachment; filename="eager-ladder.crt"',
    },
  });
}
