import { Validator } from '@seriousme/openapi-schema-validator';
import { endpoints, openApiDocument } from '@woodruff/contract';

describe('The OpenAPI document', () => {
  it('is valid by a public validator, without a network', async () => {
    const result = await new Validator().validate(structuredClone(openApiDocument()));
    expect(result.valid)
      .withContext(String(JSON.stringify(result.errors)).slice(0, 800))
      .toBeTrue();
  });

  it('names a component for each body and answer, and refers to nothing outside', () => {
    const document = openApiDocument();
    const text = JSON.stringify(document);
    const outside = [...text.matchAll(/"\$ref":"([^"]+)"/g)].map(([, to]) => to ?? '').filter((to) => !to.startsWith('#/'));
    expect(outside).toEqual([]);
    const { schemas } = document['components'] as { schemas: Record<string, unknown> };
    expect(schemas['ApproveBody']).toBeDefined();
    expect(schemas['PayslipAnswer']).toBeDefined();
    for (const [, to] of text.matchAll(/"\$ref":"#\/components\/schemas\/([^"/]+)"/g))
      expect(schemas[to ?? ''])
        .withContext(to ?? '')
        .toBeDefined();
    expect(Object.keys(endpoints).every((name) => text.includes(`"operationId":"${name}"`))).toBeTrue();
  });
});
