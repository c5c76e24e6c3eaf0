import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize';
import type { GroupDefaults } from '@woodruff/contract';
import type { Payment } from './payment/accounts';
import type { Database } from '../database/connection';

export class Person extends Model<InferAttributes<Person>, InferCreationAttributes<Person>> {
  declare id: CreationOptional<string>;
  declare employerId: string;
  declare code: string;
  declare givenName: string;
  declare familyName: string;
  declare born: string | null;
  declare email: string | null;
  declare hired: string | null;
  declare left: string | null;
  declare leftReason: string | null;
  declare department: string;
  declare worksite: string;
  declare job: string;
  declare kind: 'regular' | 'seasonal' | 'casual' | 'contractor';
  declare scheduleId: string | null;
  declare standardHours: string | null;
  declare address: { line1: string; line2: string; city: string; state: string; postcode: string };
  declare numberSealed: CreationOptional<Buffer | null>;
  declare numberFingerprint: CreationOptional<string | null>;
  declare numberLast4: CreationOptional<string | null>;
  declare phone: CreationOptional<string>;
  declare emergency: CreationOptional<{ name: string; phone: string; relation: string }>;
  declare own: CreationOptional<Record<string, string>>;
  declare groupId: CreationOptional<string | null>;
  /** Since when year-end forms come electronically. */
  declare electronicForms: CreationOptional<string | null>;
  declare managerId: CreationOptional<string | null>;
  declare absence: CreationOptional<{ from: string; to?: string | null | undefined; reason: string } | null>;
  /** From this day on the tax agency cannot know the person by the number on file. */
  declare numberRefused: CreationOptional<string | null>;
  declare payment: CreationOptional<Payment | null>;
  declare accountSealed: CreationOptional<Buffer | null>;
  declare version: CreationOptional<number>;
}

export class PayRate extends Model<InferAttributes<PayRate>, InferCreationAttributes<PayRate>> {
  declare id: CreationOptional<string>;
  declare personId: string;
  declare series: string;
  declare label: string;
  declare per: 'hour' | 'period' | 'year';
  declare amount: string;
  declare fromDate: string;
  declare isPrimary: boolean;
  declare reason: string;
}

export class TaxDetails extends Model<InferAttributes<TaxDetails>, InferCreationAttributes<TaxDetails>> {
  declare id: CreationOptional<string>;
  declare personId: string;
  declare fromDate: string;
  declare facts: Record<string, unknown>;
}

export class PersonItem extends Model<InferAttributes<PersonItem>, InferCreationAttributes<PersonItem>> {
  declare id: CreationOptional<string>;
  declare personId: string;
  declare itemId: string;
  declare amount: string | null;
  declare percent: string | null;
  declare limits: object | null;
  declare orderFacts: object | null;
  declare fromDate: string;
  declare toDate: string | null;
  declare version: CreationOptional<number>;
}

export class StandingTax extends Model<InferAttributes<StandingTax>, InferCreationAttributes<StandingTax>> {
  declare id: CreationOptional<string>;
  declare personId: string;
  declare tax: string;
  declare instead: 'exempt' | 'amount' | 'percent';
  declare value: string | null;
  declare reason: string;
  declare fromDate: string;
  declare toDate: string | null;
}

/** Facts of a person that changed from a day on; without `countedAt` they are still to come. */
export class DatedChange extends Model<InferAttributes<DatedChange>, InferCreationAttributes<DatedChange>> {
  declare id: CreationOptional<string>;
  declare personId: string;
  declare fromDate: string;
  declare facts: Record<string, unknown>;
  declare before: CreationOptional<Record<string, unknown> | null>;
  declare reason: string;
  declare userId: string;
  declare countedAt: CreationOptional<Date | null>;
}

export class PayGroup extends Model<InferAttributes<PayGroup>, InferCreationAttributes<PayGroup>> {
  declare id: CreationOptional<string>;
  declare employerId: string;
  declare name: string;
  declare defaults: GroupDefaults;
  declare version: CreationOptional<number>;
}

const key = { type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 };
const text = DataTypes.TEXT;
const date = DataTypes.DATEONLY;

export function definePeople(sequelize: Database): void {
  const options = (tableName: string) => ({ sequelize, tableName, underscored: true, timestamps: false });
  Person.init(
    {
      id: key,
      employerId: DataTypes.UUID,
      code: text,
      givenName: text,
      familyName: text,
      born: date,
      email: text,
      hired: date,
      left: date,
      leftReason: text,
      department: text,
      worksite: text,
      job: text,
      kind: text,
      scheduleId: DataTypes.UUID,
      standardHours: DataTypes.DECIMAL(6, 2),
      address: DataTypes.JSONB,
      numberSealed: DataTypes.BLOB,
      numberFingerprint: text,
      numberLast4: { type: text, field: 'number_last4' },
      phone: text,
      emergency: DataTypes.JSONB,
      own: DataTypes.JSONB,
      groupId: DataTypes.UUID,
      electronicForms: DataTypes.DATEONLY,
      managerId: DataTypes.UUID,
      absence: DataTypes.JSONB,
      numberRefused: DataTypes.DATEONLY,
      payment: DataTypes.JSONB,
      accountSealed: DataTypes.BLOB,
      version: DataTypes.INTEGER,
    },
    { ...options('people'), version: true },
  );
  PayRate.init(
    {
      id: key,
      personId: DataTypes.UUID,
      series: text,
      label: text,
      per: text,
      amount: DataTypes.DECIMAL(14, 6),
      fromDate: date,
      isPrimary: DataTypes.BOOLEAN,
      reason: text,
    },
    options('pay_rates'),
  );
  TaxDetails.init({ id: key, personId: DataTypes.UUID, fromDate: date, facts: DataTypes.JSONB }, options('tax_details'));
  PersonItem.init(
    {
      id: key,
      personId: DataTypes.UUID,
      itemId: DataTypes.UUID,
      amount: DataTypes.DECIMAL,
      percent: DataTypes.DECIMAL(12, 6),
      limits: DataTypes.JSONB,
      orderFacts: DataTypes.JSONB,
      fromDate: date,
      toDate: date,
      version: DataTypes.INTEGER,
    },
    { ...options('person_items'), version: true },
  );
  StandingTax.init(
    {
      id: key,
      personId: DataTypes.UUID,
      tax: text,
      instead: text,
      value: DataTypes.DECIMAL,
      reason: text,
      fromDate: date,
      toDate: date,
    },
    options('standing_taxes'),
  );
  DatedChange.init(
    {
      id: key,
      personId: DataTypes.UUID,
      fromDate: date,
      facts: DataTypes.JSONB,
      before: DataTypes.JSONB,
      reason: text,
      userId: DataTypes.UUID,
      countedAt: DataTypes.DATE,
    },
    options('dated_changes'),
  );
  PayGroup.init(
    { id: key, employerId: DataTypes.UUID, name: text, defaults: DataTypes.JSONB, version: DataTypes.INTEGER },
    { ...options('pay_groups'), version: true },
  );
}
