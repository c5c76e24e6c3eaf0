import { z } from 'zod';
import { endpoints, type Endpoint } from './endpoints';
import { payslipInputSchema } from './payslip-input';

type Json = Record<string, unknown>;

const PROBLEM: Json = {
  type: 'object',
  description: 'What went wrong and what to do (RFC 9457)',
  required: ['type', 'title', 'status', 'detail', 'code'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    detail: { type: 'string' },
    code: { type: 'string' },
    fields: {
      type: 'array',
      items: { type: 'object', properties: { path: { type: 'string' }, expected: { type: 'string' } } },
    },
    changed: {
      type: 'array',
      items: { type: 'object', properties: { at: { type: 'string' }, who: { type: 'string' }, what: { type: 'string' } } },
    },
  },
};

/**
 * The OpenAPI 3.1 document of the HTTP interface, made from the endpoints' schemas: a named component for each body and
 * answer, and nothing in it that has to be fetched.
 */
export function openApiDocument(): Json {
  const paths: Record<string, Json> = {};
  const schemas: Json = { Problem: PROBLEM, PayslipInput: jsonSchema(payslipInputSchema, 'input') };
  const component = (name: string, schema: z.ZodType, io: 'input' | 'output'): Json => {
    schemas[name] = jsonSchema(schema, io);
    return { $ref: `#/components/schemas/${name}` };
  };
  for (const [operationId, endpoint] of Object.entries(endpoints) as [string, Endpoint][]) {
    const path = `/api${endpoint.path.replace(/:(\w+)/g, '{$1}')}`;
    (paths[path] ??= {})[endpoint.method] = operation(operationId, endpoint, component);
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Woodruff',
      version: '1',
      description: 'Amounts are integers in minor units unless a field is a decimal text. Errors are problem details (RFC 9457).',
    },
    paths,
    components: {
      schemas,
      securitySchemes: {
        session: { type: 'apiKey', in: 'cookie', name: 'woodruff', description: 'Changes carry the session’s token in x-csrf-token, too.' },
      },
    },
  };
}

function operation(
  operationId: string,
  endpoint: Endpoint,
  component: (name: string, schema: z.ZodType, io: 'input' | 'output') => Json,
): Json {
  const named = operationId[0]!.toUpperCase() + operationId.slice(1);
  const parameters = [...endpoint.path.matchAll(/:(\w+)/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const query = endpoint.query
    ? Object.entries((jsonSchema(endpoint.query, 'input')['properties'] ?? {}) as Json).map(([name, schema]) => ({
        name,
        in: 'query',
        schema,
      }))
    : [];
  const answer = endpoint.file
    ? { [endpoint.file]: {} }
    : { 'application/json': { schema: endpoint.answer ? component(`${named}Answer`, endpoint.answer, 'output') : {} } };
  const rehearse = {
    name: 'rehearse',
    in: 'query',
    description: 'Save nothing; answer what it would do to the open runs',
    schema: { type: 'boolean' },
  };
  return {
    operationId,
    summary: endpoint.summary,
    ...(endpoint.needs === 'nobody' ? {} : { security: [{ session: [] }] }),
    parameters: [...parameters, ...query, ...(endpoint.rehearsable ? [rehearse] : [])],
    ...(endpoint.body
      ? { requestBody: { required: true, content: { 'application/json': { schema: component(`${named}Body`, endpoint.body, 'input') } } } }
      : {}),
    responses: {
      200: { description: endpoint.summary, content: answer },
      ...(endpoint.second ? { 202: { description: 'Waits for a second person; nothing is changed yet' } } : {}),
      default: {
        description: 'What went wrong and what to do',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}

/** JSON Schema without the address of its dialect: that is the document's own. */
function jsonSchema(schema: z.ZodType, io: 'input' | 'output'): Json {
  const { $schema: _dialect, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any', reused: 'inline' });
  return rest;
}
