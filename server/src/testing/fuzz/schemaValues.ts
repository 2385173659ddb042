import type { Dice } from '@zubrell/core/testing/dice';

/** As much of JSON Schema as the routes' schemas come to. */
export interface JsonSchema {
  readonly type?: string | readonly string[];
  readonly const?: unknown;
  readonly enum?: readonly unknown[];
  readonly anyOf?: readonly JsonSchema[];
  readonly oneOf?: readonly JsonSchema[];
  readonly allOf?: readonly JsonSchema[];
  readonly properties?: Readonly<Record<string, JsonSchema>>;
  readonly items?: JsonSchema;
  readonly minItems?: number;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly exclusiveMinimum?: number;
  readonly format?: string;
  readonly minLength?: number;
}

/** Values that fit by the name of the field: ids of things that are there. */
export type Known = Readonly<Record<string, unknown>>;

/** A value that a schema allows, with every field that may be left out; of a union, one branch. */
export function fittingValue(schema: JsonSchema, name: string, known: Known, die: Dice): unknown {
  const branches = schema.anyOf ?? schema.oneOf;
  if (branches) return fittingValue(die.pick(branches), name, known, die);
  if (schema.const !== undefined) return schema.const;
  if (schema.enum) return die.pick(schema.enum);
  if (schema.type !== 'array' && name in known) return known[name];
  switch (typeOf(schema)) {
    case 'object':
      return Object.fromEntries(
        Object.entries(schema.properties ?? {}).map(([key, of]) => [
          key,
          fittingValue(of, key, known, die),
        ]),
      );
    case 'array': {
      // What a list of ids holds is called as one of them.
      const one = name in known ? name : name.replace(/s$/, '');
      const count = Math.max(schema.minItems ?? 0, 1);
      return Array.from({ length: count }, () => fittingValue(schema.items ?? {}, one, known, die));
    }
    case 'integer':
    case 'number':
      return Math.max(schema.minimum ?? 0, (schema.exclusiveMinimum ?? -1) + 1, 1);
    case 'boolean':
      return die.chance(0.5);
    case 'string':
      if (schema.format === 'uuid') return known.anyId;
      if (schema.format === 'date') return '2026-03-05';
      if (schema.format === 'email') return 'ida@example.test';
      return 'Clay'.padEnd(schema.minLength ?? 0, 'y');
    default:
      return null;
  }
}

function typeOf({ type, properties }: JsonSchema): string | undefined {
  if (typeof type === 'string') return type;
  return type?.find((each) => each !== 'null') ?? (properties ? 'object' : undefined);
}

/** Where something stands in a value. */
export type Place = readonly (string | number)[];

/** Every place in a value, the value itself first. */
export function placesIn(value: unknown, at: Place = []): Place[] {
  const inner = Array.isArray(value)
    ? value.flatMap((each, index) => placesIn(each, [...at, index]))
    : typeof value === 'object' && value !== null
      ? Object.entries(value).flatMap(([key, each]) => placesIn(each, [...at, key]))
      : [];
  return [at, ...inner];
}

/** A value with another one at a place. */
export function replaced(value: unknown, [first, ...rest]: Place, put: unknown): unknown {
  if (first === undefined) return put;
  if (Array.isArray(value)) {
    return value.map((each, index) => (index === first ? replaced(each, rest, put) : each));
  }
  const object = value as Readonly<Record<string, unknown>>;
  return { ...object, [first]: replaced(object[first], rest, put) };
}

/** What stands at a place. */
export function valueAt(value: unknown, place: Place): unknown {
  return place.reduce<unknown>(
    (at, key) => (at as Readonly<Record<string | number, unknown>>)[key],
    value,
  );
}
