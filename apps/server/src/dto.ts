import { READINGS, type Reading } from '@true-nib/core/page';
import { plainToInstance } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsDefined,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Matches,
  Max,
  Min,
  ValidateIf,
  validateSync,
} from 'class-validator';
import { NAME_LENGTH } from './keeping/models';
import { Problem } from './problem';

/** As long as the core's gate lets ids be. */
const ID_LENGTH = 200;
/** Letters that are looked for, or put in their place. */
const WORDS_LENGTH = 500;

/** What names a thing: anything but control characters. */
function IsId(): PropertyDecorator {
  return together(
    IsString(),
    Length(1, ID_LENGTH),
    Matches(/^\P{Cc}*$/u, { message: '$property has control characters' }),
  );
}

/** What an artist calls something: there is something in it to be read. */
function IsName(): PropertyDecorator {
  return together(
    IsString(),
    Length(1, NAME_LENGTH),
    Matches(/^\P{Cc}*$/u, { message: '$property has control characters' }),
    Matches(/[\p{L}\p{N}\p{P}\p{S}]/u, { message: '$property needs a letter, a digit or a sign' }),
  );
}

/** Checked where it is said at all: `null` is something that is said. */
const IfSaid = (): PropertyDecorator => ValidateIf((_body, value) => value !== undefined);

/** A whole number that came as text. */
const IsWhole = (): PropertyDecorator => Matches(/^\d{1,15}$/, { message: '$property needs a whole number' });

const together =
  (...decorators: readonly PropertyDecorator[]): PropertyDecorator =>
  (target, name) =>
    decorators.forEach((decorate) => decorate(target, name));

export class IdParam {
  @IsId()
  readonly id!: string;
}

export class ChangeParams extends IdParam {
  @IsId()
  readonly changeId!: string;
}

export class BlobParam {
  @Matches(/^[0-9a-f]{64}$/, { message: 'a SHA-256 has 64 hex digits in lower case' })
  readonly sha256!: string;
}

export class ChangesQuery {
  @IsOptional()
  @IsIn(['headers'])
  readonly only?: 'headers';

  @IsOptional()
  @IsWhole()
  readonly since?: string;

  @IsOptional()
  @IsId()
  readonly lastId?: string;
}

export class ThumbnailQuery {
  @IsWhole()
  readonly revision!: string;
}

export class PackageQuery {
  /** Whether what was ever done goes along. */
  @IsOptional()
  @IsIn(['yes', 'no'])
  readonly journal?: 'yes' | 'no';
}

export class ConversionParams {
  @IsIn(['tiff', 'jpeg', 'webp'])
  readonly kind!: 'tiff' | 'jpeg' | 'webp';
}

export class ConversionQuery {
  @Matches(/^\d{1,5}(\.\d{1,4})?$/, { message: '$property needs px an inch' })
  readonly ppi!: string;

  @IsOptional()
  @Matches(/^([1-9]\d?|100)$/, { message: '$property needs a number from 1 to 100' })
  readonly quality?: string;
}

export class FolioBody {
  @IsName()
  readonly name!: string;
}

/** What may be another of a folio. */
export class FolioChangeBody {
  @IfSaid()
  @IsName()
  readonly name?: string;

  @IfSaid()
  @IsIn(READINGS)
  readonly reads?: Reading;

  @IfSaid()
  @IsBoolean()
  readonly firstAlone?: boolean;
}

/** What may be another of a page on the shelf. */
export class PageChangeBody {
  @IfSaid()
  @IsName()
  readonly name?: string;

  /** Its place in the folio, from 1 on. */
  @IfSaid()
  @IsInt()
  @Min(1)
  @Max(1_000_000)
  readonly place?: number;
}

/** Words to be replaced in a folio. */
export class WordsBody {
  @IsString()
  @Length(1, WORDS_LENGTH)
  readonly words!: string;

  @IsString()
  @Length(0, WORDS_LENGTH)
  readonly other!: string;

  @IsOptional()
  @IsBoolean()
  readonly asWritten?: boolean;

  @IsOptional()
  @IsBoolean()
  readonly whole?: boolean;

  /** Whose change it is. */
  @IsId()
  readonly by!: string;
}

/** Changes of pages to be taken back, each to be checked as `ChangeParams`. */
export class TakeBackBody {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(10_000)
  readonly changes!: readonly unknown[];

  @IsId()
  readonly by!: string;
}

export class RackBody {
  @IsInt()
  @Min(0)
  @Max(Number.MAX_SAFE_INTEGER)
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

export class SetBody {
  /** Path data of lines. */
  @IsString()
  @Length(0, 400_000)
  @Matches(/^[-MCLZ0-9. ]*$/)
  readonly picture!: string;

  /** Checked by the core's staging. */
  @IsDefined()
  readonly file!: unknown;
}

export class PageBody {
  @IsId()
  readonly folioId!: string;

  @IsName()
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

/** The envelope only; what is in the changes is checked by the core's own gate. */
export class ChangesBody {
  @IsInt()
  @Min(0)
  @Max(Number.MAX_SAFE_INTEGER)
  readonly since!: number;

  @IsOptional()
  @IsId()
  readonly lastId?: string;

  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(2_000)
  readonly changes!: readonly unknown[];
}

/** A body, a query or the parameters of an address as an instance of its class, unknown fields left out. Throws a Problem that names every field that is wrong. */
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
