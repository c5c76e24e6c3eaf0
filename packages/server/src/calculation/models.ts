import type { Edits, SpecialRules } from '@woodruff/contract';
import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize';
import type { Database } from '../database/connection';

export class PayRun extends Model<InferAttributes<PayRun>, InferCreationAttributes<PayRun>> {
  declare id: CreationOptional<string>;
  declare employerId: string;
  declare scheduleId: string;
  declare kind: 'regular' | 'special' | 'correction' | 'opening' | 'adjustment';
  /** Of a special run. */
  declare name: CreationOptional<string>;
  declare rules: CreationOptional<SpecialRules | null>;
  declare periodFrom: string;
  declare periodTo: string;
  declare payDate: string;
  declare state: 'calculating' | 'open' | 'submitted' | 'approved' | 'withdrawn';
  declare comparedWith: string | null;
  declare factsVersion: CreationOptional<number>;
  declare version: CreationOptional<number>;
  declare approvedBy: CreationOptional<string | null>;
  declare approvedAt: CreationOptional<Date | null>;
  declare approvalKey: CreationOptional<string | null>;
  declare lastEditedBy: CreationOptional<string | null>;
  declare submittedBy: CreationOptional<string | null>;
  declare submittedAt: CreationOptional<Date | null>;
  declare sentBack: CreationOptional<string | null>;
}

export class Payslip extends Model<InferAttributes<Payslip>, InferCreationAttributes<Payslip>> {
  declare id: CreationOptional<string>;
  declare runId: string;
  declare personId: string;
  declare included: CreationOptional<boolean>;
  declare edits: CreationOptional<Edits>;
  declare version: CreationOptional<number>;
  declare state: CreationOptional<'draft' | 'posted' | 'reversed' | 'reversal'>;
  declare reverses: CreationOptional<string | null>;
  declare replaces: CreationOptional<string | null>;
}

export function definePayRuns(sequelize: Database): void {
  const key = { type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 };
  PayRun.init(
    {
      id: key,
      employerId: DataTypes.UUID,
      scheduleId: DataTypes.UUID,
      kind: DataTypes.TEXT,
      periodFrom: DataTypes.DATEONLY,
      periodTo: DataTypes.DATEONLY,
      payDate: DataTypes.DATEONLY,
      state: DataTypes.TEXT,
      comparedWith: DataTypes.UUID,
      factsVersion: { type: DataTypes.INTEGER, defaultValue: 0 },
      version: { type: DataTypes.INTEGER, defaultValue: 1 },
      approvedBy: DataTypes.UUID,
      approvedAt: DataTypes.DATE,
      approvalKey: DataTypes.TEXT,
      lastEditedBy: DataTypes.UUID,
      name: { type: DataTypes.TEXT, defaultValue: '' },
      rules: DataTypes.JSONB,
      submittedBy: DataTypes.UUID,
      submittedAt: DataTypes.DATE,
      sentBack: DataTypes.TEXT,
    },
    { sequelize, tableName: 'pay_runs', underscored: true, timestamps: false },
  );
  Payslip.init(
    {
      id: key,
      runId: DataTypes.UUID,
      personId: DataTypes.UUID,
      included: { type: DataTypes.BOOLEAN, defaultValue: true },
      edits: { type: DataTypes.JSONB, defaultValue: {} },
      version: { type: DataTypes.INTEGER, defaultValue: 1 },
      state: { type: DataTypes.TEXT, defaultValue: 'draft' },
      reverses: DataTypes.UUID,
      replaces: DataTypes.UUID,
    },
    { sequelize, tableName: 'payslips', underscored: true, timestamps: false },
  );
}
