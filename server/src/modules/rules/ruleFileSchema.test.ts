import { readFileSync, writeFileSync } from 'node:fs';
import { RuleFile } from '@zubrell/contract/rules';
import { toFileRule } from '@zubrell/core/propose/rule/ruleFile';
import { codingRule } from '@zubrell/core/testing/rules';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';

const path = new URL('../../../../docs/rule-file.schema.json', import.meta.url);
const schema = `${JSON.stringify(z.toJSONSchema(RuleFile), null, 2)}\n`;
// After a change of the schema: UPDATE=1 npx vitest run ruleFileSchema
if (process.env.UPDATE === '1') writeFileSync(path, schema);

describe('the rule file', () => {
  it('is published as it is read', () => {
    expect(JSON.parse(readFileSync(path, 'utf8'))).toEqual(JSON.parse(schema));
  });

  it('is what the core writes', () => {
    const rules = [toFileRule(codingRule('clay', 'tidemark'), (_kind, id) => id)];
    const file = { format: 'zubrell-rules', version: 1, currency: 'EUR', rules };
    expect(RuleFile.parse(file)).toEqual(file);
  });
});
