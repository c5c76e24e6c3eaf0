import type { PayItem as PayItemFacts } from '@woodruff/core';
import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize';
import type { Database } from '../database/connection';

export class PayItem extends Model<InferAttributes<PayItem>, InferCreationAttributes<PayItem>> {
  declare id: CreationOptional<string>;
  declare employerId: string;
  declare code: string;
  declare definition: PayItemFacts;
  declare retired: CreationOptional<boolean>;
  declare version: CreationOptional<number>;
}

export function definePayItems(sequelize: Database): void {
  PayItem.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 },
      employerId: DataTypes.UUID,
      code: DataTypes.TEXT,
      definition: DataTypes.JSONB,
      retired: DataTypes.BOOLEAN,
      version: DataTypes.INTEGER,
    },
    { sequelize, tableName: 'pay_items', underscored: true, timestamps: false, version: true },
  );
}
