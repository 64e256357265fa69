import {
  DataTypes,
  type ModelAttributeColumnOptions,
  type ModelStatic,
  type Model,
  type Sequelize,
} from 'sequelize';
import type { TSchema } from 'typebox';
import { Study } from '../../core/model/study.ts';
import { PART_KINDS, PART_KIND_NAMES } from '../../core/model/part-kinds.ts';
import type { Row, TableName } from '../database.ts';

export type Table = ModelStatic<Model<Row, Row>>;

interface PlainSchema {
  type?: string;
  anyOf?: PlainSchema[];
}

/** The column that holds a field: its schema says which. */
function column(schema: TSchema): ModelAttributeColumnOptions {
  const { type, anyOf } = schema as PlainSchema;
  if (anyOf) {
    const inner = anyOf.find((option) => option.type !== 'null') as TSchema;
    return { ...column(inner), allowNull: true };
  }
  const types = {
    string: DataTypes.TEXT,
    integer: DataTypes.INTEGER,
    number: DataTypes.DOUBLE,
    boolean: DataTypes.BOOLEAN,
    object: DataTypes.JSON,
    array: DataTypes.JSON,
  };
  const found = types[type as keyof typeof types] as (typeof types)[keyof typeof types] | undefined;
  if (!found) throw new TypeError(`no column holds a field of type “${String(type)}”`);
  return { type: found, allowNull: false };
}

function define(sequelize: Sequelize, table: TableName, schema: TSchema): Table {
  const fields = (schema as unknown as { properties: Record<string, TSchema> }).properties;
  return sequelize.define<Model<Row, Row>>(
    table,
    {
      seq: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      ...Object.fromEntries(Object.entries(fields).map(([field, type]) => [field, column(type)])),
    },
    { tableName: table, timestamps: false },
  );
}

/** One table per part kind, and the studies. */
export function defineTables(sequelize: Sequelize): Record<TableName, Table> {
  const tables = { studies: define(sequelize, 'studies', Study) } as Record<TableName, Table>;
  for (const kind of PART_KIND_NAMES) tables[kind] = define(sequelize, kind, PART_KINDS[kind].schema);
  return tables;
}
