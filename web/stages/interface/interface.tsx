import { useQuery } from '@tanstack/react-query';
import styled from 'styled-components';
import { capital, counted } from '../../../core/quantity/format.ts';
import { API, problemText, request } from '../../app/api/client.ts';
import { Fold } from '../../ui/fold.tsx';
import { LinkButton } from '../../ui/link-button.tsx';
import { PageHead } from '../../ui/page.tsx';
import { NARROW } from '../../ui/tokens.ts';

interface Parameter {
  name: string;
  in: 'path' | 'query';
  description: string;
  required?: boolean;
  schema: { enum?: string[] };
}
interface Operation {
  operationId: string;
  tags: string[];
  summary: string;
  parameters?: Parameter[];
  requestBody?: { content: Record<string, unknown> };
  responses: Record<string, { description: string }>;
}
interface Description {
  info: { version: string; description: string };
  tags: { name: string }[];
  paths: Record<string, Record<string, Operation>>;
}

const Page = styled.main`
  flex: 1;
  padding: 24px 28px 60px;
  background: var(--sheet);
  > * {
    max-width: 1000px;
  }
  ${NARROW} {
    padding: 20px 20px 60px;
  }
`;

const Entry = styled.details`
  padding: 4px 0;
  border-top: 1px solid var(--rule);
  > summary {
    display: grid;
    grid-template-columns: 64px minmax(0, 1fr);
    gap: 2px 12px;
    padding: 8px 0;
    cursor: pointer;
    list-style: none;
  }
  code {
    overflow-wrap: anywhere;
  }
  > summary span {
    grid-column: 2;
    color: var(--quiet);
    font-size: var(--size-15);
  }
  dl {
    display: grid;
    grid-template-columns: max-content minmax(0, 1fr);
    gap: 4px 16px;
    margin: 4px 0 12px 76px;
    font-size: var(--size-15);
  }
  pre {
    margin: 0 0 14px 76px;
    padding: 10px 12px;
    border-radius: var(--corner);
    background: var(--paper);
    font-size: var(--size-13);
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
  ${NARROW} {
    dl,
    pre {
      margin-left: 0;
    }
  }
`;

const Method = styled.b<{ $writes: boolean }>`
  color: ${({ $writes }) => ($writes ? 'var(--rust)' : 'var(--fern)')};
`;

/** How an operation is asked for by curl: the address as it is here, with names where ids go. */
function curl(method: string, path: string, { parameters = [], requestBody }: Operation): string {
  const needed = parameters.filter((parameter) => parameter.in === 'query' && parameter.required);
  const query = needed.map(({ name }) => `${name}={${name}}`).join('&');
  const type = Object.keys(requestBody?.content ?? {})[0];
  return [
    'curl',
    ...(method === 'get' ? [] : [`--request ${method.toUpperCase()}`]),
    ...(type
      ? [`--header 'Content-Type: ${type}'`, type.endsWith('json') ? "--data '{…}'" : '--data-binary @FILE']
      : []),
    `'${location.origin}${API}${path}${query && `?${query}`}'`,
  ].join(' ');
}

function OperationEntry({ method, path, operation }: { method: string; path: string; operation: Operation }) {
  const { summary, parameters = [], responses } = operation;
  return (
    <Entry>
      <summary>
        <Method $writes={method !== 'get'}>{method.toUpperCase()}</Method>
        <code>{path}</code>
        <span>{summary}</span>
      </summary>
      <dl>
        {parameters.map(({ name, description, schema, required }) => [
          <dt key={`${name} name`}>
            <code>{name}</code>
          </dt>,
          <dd key={name}>
            {description}
            {schema.enum ? `: ${schema.enum.join(', ')}` : ''}
            {required ? '' : ' (may be left out)'}
          </dd>,
        ])}
        {Object.entries(responses).map(([status, { description }]) => [
          <dt key={`${status} status`}>{status}</dt>,
          <dd key={status}>{description}</dd>,
        ])}
      </dl>
      <pre>{curl(method, path, operation)}</pre>
    </Entry>
  );
}

/** The interface for programs: every address, what it takes and answers, and how it is asked for by curl. */
export function Interface() {
  const { data, error } = useQuery({
    queryKey: ['openapi'],
    queryFn: () => request<Description>('GET', '/openapi.json'),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const operations = Object.entries(data?.paths ?? {}).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ path, method, operation })),
  );
  return (
    <Page id="content" tabIndex={-1}>
      <PageHead title="For programs">
        {data?.info.description ?? (error ? problemText(error) : 'Opening…')}
      </PageHead>
      {data && (
        <>
          <p style={{ margin: '14px 0 20px' }}>
            <LinkButton href={`${API}/openapi.json`} download>
              OpenAPI 3.1, as JSON
            </LinkButton>
          </p>
          {data.tags.map(({ name }) => {
            const mine = operations.filter(({ operation }) => operation.tags.includes(name));
            return (
              <Fold key={name} title={capital(name)} state={counted(mine.length, 'address', 'addresses')}>
                {mine.map((entry) => (
                  <OperationEntry key={entry.operation.operationId} {...entry} />
                ))}
              </Fold>
            );
          })}
        </>
      )}
    </Page>
  );
}
