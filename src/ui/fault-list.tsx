/** Faults of a document, each at its path, with what would be right. */
export function FaultList({ faults }: { faults: readonly { path: string; message: string }[] }) {
  return (
    <ul className="grid gap-2" aria-label="Faults">
      {faults.map((fault) => (
        <li key={`${fault.path} ${fault.message}`} className="border-l-2 border-over pl-3">
          <code className="figures font-semibold break-all">{fault.path}</code> {fault.message}
        </li>
      ))}
    </ul>
  );
}
