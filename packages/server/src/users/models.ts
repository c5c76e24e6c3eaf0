import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize';
import type { Right } from '@woodruff/contract';
import type { Database } from '../database/connection';

export class User extends Model<InferAttributes<User>, InferCreationAttributes<User>> {
  declare id: CreationOptional<string>;
  declare email: string;
  declare name: string;
  declare passwordHash: string;
}

export class Membership extends Model<InferAttributes<Membership>, InferCreationAttributes<Membership>> {
  declare userId: string;
  declare employerId: string;
  declare role: string;
  /** Given singly in place of the role's; null for the ready set. */
  declare rights: CreationOptional<Right[] | null>;
  declare acceptedAt: CreationOptional<Date | null>;
  /** Of an employee. */
  declare personId: CreationOptional<string | null>;
}

export function defineUsers(sequelize: Database): void {
  User.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 },
      email: DataTypes.TEXT,
      name: DataTypes.TEXT,
      passwordHash: DataTypes.TEXT,
    },
    { sequelize, tableName: 'users', underscored: true, timestamps: false },
  );
  Membership.init(
    {
      userId: { type: DataTypes.UUID, primaryKey: true },
      employerId: { type: DataTypes.UUID, primaryKey: true },
      role: DataTypes.TEXT,
      rights: DataTypes.ARRAY(DataTypes.TEXT),
      acceptedAt: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },
      personId: DataTypes.UUID,
    },
    { sequelize, tableName: 'memberships', underscored: true, timestamps: false },
  );
}
