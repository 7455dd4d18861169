/**
 * People and programs that are told what has become of runs. {@code Occasions} notes, in the transaction that ends or
 * holds a run, whom its job wants to be told; {@code Telling} takes up what is due and tells it, again and again until
 * somebody has taken it or it is given up; {@code Notices} keeps the record of that. What is told holds counts and
 * names of fields, and no value of any record.
 */
@NullMarked
package dev.nachlauf.service.notice;

import org.jspecify.annotations.NullMarked;
