/** Of vacuum, and near enough of air, F/m (CODATA 2018). */
export const VACUUM_PERMITTIVITY = 8.8541878128e-12;
