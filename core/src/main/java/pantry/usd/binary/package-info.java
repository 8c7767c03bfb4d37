/**
 * The binary format of layers ({@code .usdc}): {@link UsdcReader} and {@link UsdcWriter}.
 *
 * <p>A file is a header, values at any place, and six tables at the end: tokens, strings (as tokens), fields (a name and
 * a value), field sets, paths and specs (a path and a field set). Values of up to four bytes stand in the field itself;
 * others where its offset says. Tables and arrays of whole numbers are coded by differences and packed with LZ4.
 *
 * <p>Source: AOUSD Core Specification 1.0, binary file format; from memory, as its text cannot be reached from the
 * build. What is written is therefore read by two independent programs in the tests.
 */
@NullMarked
package pantry.usd.binary;

import org.jspecify.annotations.NullMarked;
