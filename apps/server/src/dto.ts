import { plainToInstance } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsDefined,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Max,
  Min,
  validateSync,
} from 'class-validator';
import { Problem } from './problem';

export class FolioBody {
  @IsString()
  @Length(1, 120)
  readonly name!: string;
}

export class RackBody {
  @IsInt()
  @Min(0)
  readonly since!: number;

  /** Checked by the core's rack. */
  @IsDefined()
  readonly nibs!: unknown;
}

export class TemplateBody {
  @IsString()
  @Length(0, 200)
  readonly name!: string;

  /** Checked by the core's templates. */
  @IsDefined()
  readonly rings!: unknown;
}

export class PageBody {
  @IsString()
  @Length(1, 64)
  readonly folioId!: string;

  @IsString()
  @Length(1, 120)
  readonly name!: string;

  @IsInt()
  @Min(1)
  readonly width!: number;

  @IsInt()
  @Min(1)
  readonly height!: number;

  @IsNumber()
  @Min(1)
  readonly ppi!: number;

  @IsOptional()
  @IsUUID()
  readonly id?: string;
}

export class NameBody {
  @IsString()
  @Length(1, 120)
  readonly name!: string;
}

/** The envelope only; what is in the changes is checked by the core's own gate. */
export class ChangesBody {
  @IsInt()
  @Min(0)
  @Max(Number.MAX_SAFE_INTEGER)
  readonly since!: number;

  /** As long as the gate lets ids be. */
  @IsOptional()
  @IsString()
  @Length(1, 200)
  readonly lastId?: string;

  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(2_000)
  readonly changes!: readonly unknown[];
}

/** The body as an instance of its class, unknown fields left out. Throws a Problem that names every field that is wrong. */
export function checked<T extends object>(shape: new () => T, body: unknown): T {
  const instance = plainToInstance(shape, body ?? {});
  return validated(instance);
}

/** Checks an envelope whose contents must not be copied or walked. */
export function checkedChanges(body: unknown): ChangesBody {
  const fields = typeof body === 'object' && body !== null ? body : {};
  return validated(
    Object.assign(new ChangesBody(), {
      since: 'since' in fields ? fields.since : undefined,
      lastId: 'lastId' in fields ? fields.lastId : undefined,
      changes: 'changes' in fields ? fields.changes : undefined,
    }),
  );
}

function validated<T extends object>(instance: T): T {
  const errors = Array.isArray(instance)
    ? undefined
    : validateSync(instance, { whitelist: true, forbidUnknownValues: true });
  if (!errors) throw new Problem(400, 'The request is not filled in right', 'One object is expected, not a list.');
  if (errors.length > 0) {
    const details = errors.flatMap((error) => Object.values(error.constraints ?? {}));
    throw new Problem(400, 'The request is not filled in right', `${details.join('; ')}.`);
  }
  return instance;
}
