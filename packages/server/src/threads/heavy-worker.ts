/** Work that would keep everybody else waiting, done on threads with limits of memory and time. */
export { print } from '../documents/print';
export { readTable } from '../files/read-table';
export { writeWorkbook } from '../files/write-workbook';
