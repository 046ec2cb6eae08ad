/** A temperature in a text, alone or from one to another, or by how much: "16–18 °C", "10 to 15 °C", "by 2 °C". */
const WARMTH = /\b(by |um )?(\d+(?:\.\d+)?)((?:–| to | bis )(\d+(?:\.\d+)?))? °C(?!\/)/g;

const atF = (celsius: string) => Math.round(Number(celsius) * 1.8 + 32);

/** A text of ours with the temperatures in it in °F, to whole degrees. Texts are written in °C. */
export const inFahrenheit = (text: string): string =>
  text.replace(
    WARMTH,
    (_, by: string | undefined, from: string, range: string | undefined, to: string | undefined) =>
      by
        ? `${by}${Math.round(Number(from) * 1.8)} °F`
        : `${atF(from)}${range && to ? range.replace(to, String(atF(to))) : ''} °F`,
  );
