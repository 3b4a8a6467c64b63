// What is printed: its library is loaded only by those who print.
export { writeChart } from './chart-pdf.js';
export { writeWorksheet } from './worksheet.js';
