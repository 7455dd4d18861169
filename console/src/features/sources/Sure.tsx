const SURE = 0.9;

/** How sure a conclusion is; amber where a person should look. */
export function Sure({ confidence }: { confidence: number }) {
  return <span className={confidence < SURE ? 'pill pill-needs' : 'soft'}>{Math.round(confidence * 100)} %</span>;
}
