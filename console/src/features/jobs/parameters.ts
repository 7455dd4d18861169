import type { ParameterView } from '../../api/client';

/** The names of the parameters that a run can't start without and that nobody has filled in. */
export function missing(parameters: ParameterView[], values: Record<string, string>): string[] {
  return parameters
    .filter((parameter) => parameter.required && !values[parameter.name]?.trim())
    .map((parameter) => parameter.name);
}

/** What is sent: an empty field means the default, so it is left out. */
export function given(values: Record<string, string>): Record<string, string> {
  return Object.fromEntries(Object.entries(values).filter(([, value]) => value.trim() !== ''));
}
