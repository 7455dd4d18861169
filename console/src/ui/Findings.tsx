interface Finding {
  rendered: string;
  warning: boolean;
}

/** Findings with their place, as the service renders them. */
export function Findings({ findings }: { findings: Finding[] }) {
  return (
    <div>
      {findings.map((finding, index) => (
        <pre key={index} className={finding.warning ? 'problem problem-warning' : 'problem'}>
          {finding.rendered}
        </pre>
      ))}
    </div>
  );
}
