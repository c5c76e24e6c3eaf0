/** Statutory payments of which the state gives back so much, by the base that each is posted for. Sick pay is the employer's own. */
export const RECOVERED: Readonly<Record<string, string>> = {
  'gb.smp': 'Statutory maternity pay',
  'gb.sap': 'Statutory adoption pay',
  'gb.spp': 'Statutory paternity pay',
  'gb.shpp': 'Statutory shared parental pay',
  'gb.spbp': 'Statutory parental bereavement pay',
  'gb.sncp': 'Statutory neonatal care pay',
};
export const SICK = 'gb.ssp';
