/**
 * Workbooks to rows, Office Open XML and OpenDocument alike. {@code WorkbookReader} does what both have in common: choose
 * sheets, find their headings, match columns by name, account for every filled row. {@code XlsxSheets} and {@code
 * OdsSheets} only give the cells of a sheet row by row, typed: dates by their style, errors as errors, and numbers that
 * are shown with leading zeros as the text that people see. Hidden sheets are left out unless they are named.
 */
@NullMarked
package dev.nachlauf.connectors.format.workbook;

import org.jspecify.annotations.NullMarked;
