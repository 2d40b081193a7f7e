import type { Request } from 'express';
import { checked, IdParam } from '../dto';

/** The id in an address. Throws a Problem for one that cannot be. */
export const idOf = (request: Request): string => checked(IdParam, request.params).id;
