/** A certificate for which nobody vouches, and the writer's word that it is to be believed. */
export function CertificateShown({
  certificate,
  of,
  onBelieve,
}: {
  certificate: string;
  of: string;
  onBelieve: () => void;
}) {
  return (
    <div className="mt-2 border-l-2 border-hair pl-3 text-[12.5px] leading-relaxed">
      <p>
        Its certificate says “{of}” and has the fingerprint{' '}
        <span className="figures break-all">{certificate.replace(/(.{4})/g, '$1 ')}</span>. If this is a server of your
        own and the fingerprint is its, believe it.
      </p>
      <button type="button" className="link min-h-6" onClick={onBelieve}>
        believe this certificate
      </button>
    </div>
  );
}
