/** A chart's colours by night: the same drawing on dark paper. */

/** What the colours of the server's charts become. */
const BY_NIGHT: Record<string, string> = {
  "#16211B": "#e6ece7",
  "#5B6C62": "#9cada3",
  "#CFDACF": "#36433c",
  "#22458C": "#8fb3f5",
  "#8FB0D6": "#46659a",
  "#8A5A00": "#e0a458",
  "#1C7A4C": "#5fc493",
  "#7A3E8E": "#c79adb",
  "#B0413E": "#f0908b",
  "#2E8A99": "#6cc3d1",
  "#F3F6FB": "#1f2a3d",
  "#fff": "#141a17",
  white: "#141a17",
};

const COLOUR = /"(#[0-9A-Fa-f]{3,6}|white)"/g;

/** The specification of a chart with its colours by night. */
export function atNight(spec: Record<string, unknown>): Record<string, unknown> {
  const { data, ...drawn } = spec;
  const changed = JSON.stringify(drawn).replace(
    COLOUR,
    (all, colour: string) => `"${BY_NIGHT[colour] ?? all.slice(1, -1)}"`,
  );
  return { ...(JSON.parse(changed) as Record<string, unknown>), ...(data === undefined ? {} : { data }) };
}
