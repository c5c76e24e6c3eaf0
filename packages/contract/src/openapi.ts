import { z } from 'zod';
import { endpoints, type Endpoint } from './endpoints';
import { payslipInputSchema } from './payslip-input';

/** The OpenAPI 3.1 document of the HTTP interface, made from the endpoints' schemas. */
export function openApiDocument(): Record<string, unknown> {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const [operationId, endpoint] of Object.entries(endpoints) as [string, Endpoint][]) {
    const path = `/api${endpoint.path.replace(/:(\w+)/g, '{$1}')}`;
    (paths[path] ??= {})[endpoint.method] = operation(operationId, endpoint);
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Woodruff',
      version: '1',
      description: 'Amounts are integers in minor units unless a field is a decimal text. Errors are problem details (RFC 9457).',
    },
    paths,
    components: { schemas: { PayslipInput: jsonSchema(payslipInputSchema) } },
  };
}

function operation(operationId: string, endpoint: Endpoint): Record<string, unknown> {
  const parameters = [...endpoint.path.matchAll(/:(\w+)/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const query = endpoint.query
    ? Object.entries((jsonSchema(endpoint.query)['properties'] ?? {}) as Record<string, unknown>).map(([name, schema]) => ({
        name,
        in: 'query',
        schema,
      }))
    : [];
  const answer = endpoint.file
    ? { [endpoint.file]: {} }
    : { 'application/json': { schema: endpoint.answer ? jsonSchema(endpoint.answer) : {} } };
  return {
    operationId,
    summary: endpoint.summary,
    parameters: [
      ...parameters,
      ...query,
      ...(endpoint.rehearsable
        ? [
            {
              name: 'rehearse',
              in: 'query',
              description: 'Save nothing; answer what it would do to the open runs',
              schema: { type: 'boolean' },
            },
          ]
        : []),
    ],
    ...(endpoint.body ? { requestBody: { required: true, content: { 'application/json': { schema: jsonSchema(endpoint.body) } } } } : {}),
    responses: {
      200: { description: endpoint.summary, content: answer },
      default: {
        description: 'What went wrong and what to do',
        content: { 'application/problem+json': { schema: { $ref: 'https://www.rfc-editor.org/rfc/rfc9457' } } },
      },
    },
  };
}

const jsonSchema = (schema: z.ZodType): Record<string, unknown> => z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' });
