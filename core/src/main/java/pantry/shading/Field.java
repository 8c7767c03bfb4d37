package pantry.shading;

import java.util.Arrays;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;

/** Numbers that vary over a surface: what an output of a node comes to. Immutable; evaluated by any thread with a batch of its own. */
final class Field {
    /** Computes what comes out. */
    interface Rule {
        /**
         * @param in for each input, its components one after another, of each as many numbers as there are places
         * @param out the same of the result
         */
        void fill(float[][] in, float[] out, Batch places);
    }

    /** How one number becomes another. */
    interface Unary {
        float of(float a);
    }

    /** How two numbers become one. */
    interface Binary {
        float of(float a, float b);
    }

    /** How three numbers become one. */
    interface Ternary {
        float of(float a, float b, float c);
    }

    private final int number;
    private final int width;
    private final boolean steady;
    private final int sets;
    private final List<Field> inputs;
    private final Rule rule;

    private Field(AtomicInteger numbers, int width, boolean steady, int sets, List<Field> inputs, Rule rule) {
        this.number = numbers.getAndIncrement();
        this.width = width;
        this.steady = steady;
        this.sets = sets;
        this.inputs = List.copyOf(inputs);
        this.rule = rule;
    }

    /** Makes fields, each with a number of its own. */
    static final class Maker {
        private final AtomicInteger numbers = new AtomicInteger();
        private long work;

        /** What all its fields cost at one place, in numbers that are reckoned, roughly. */
        long work() {
            return work;
        }

        /** Takes note of fields that cost more than others. */
        void addWork(long more) {
            work += more;
        }

        /** Varies wherever one of its inputs does. */
        Field of(int width, List<Field> inputs, Rule rule) {
            work += width;
            boolean steady = inputs.stream().allMatch(Field::isSteady);
            int sets = inputs.stream().mapToInt(Field::sets).reduce(0, (a, b) -> a | b);
            return new Field(numbers, width, steady, sets, inputs, rule);
        }

        /** The texture coordinates of a set, which vary by themselves. @param set 0 to 31 */
        Field coordinates(int set) {
            return new Field(numbers, 2, false, 1 << set, List.of(), (in, out, places) -> {
                System.arraycopy(places.u, 0, out, 0, places.count);
                System.arraycopy(places.v, 0, out, places.count, places.count);
            });
        }

        Field constant(float... values) {
            float[] own = values.clone();
            return new Field(numbers, own.length, true, 0, List.of(), (in, out, places) -> {
                for (int c = 0; c < own.length; c++) {
                    Arrays.fill(out, c * places.count, (c + 1) * places.count, own[c]);
                }
            });
        }

        Field map(Field a, Unary rule) {
            return of(a.width, List.of(a), (in, out, places) -> {
                for (int i = 0; i < out.length; i++) {
                    out[i] = rule.of(in[0][i]);
                }
            });
        }

        /** By components; a single number goes with each of several. */
        Field map(Field a, Field b, Binary rule) {
            int wide = Math.max(a.width, b.width);
            Field left = widened(a, wide);
            Field right = widened(b, wide);
            return of(wide, List.of(left, right), (in, out, places) -> {
                for (int i = 0; i < out.length; i++) {
                    out[i] = rule.of(in[0][i], in[1][i]);
                }
            });
        }

        /** As above. */
        Field map(Field a, Field b, Field c, Ternary rule) {
            int wide = Math.max(a.width, Math.max(b.width, c.width));
            return of(wide, List.of(widened(a, wide), widened(b, wide), widened(c, wide)), (in, out, places) -> {
                for (int i = 0; i < out.length; i++) {
                    out[i] = rule.of(in[0][i], in[1][i], in[2][i]);
                }
            });
        }

        /** A single number as several alike; others with their missing components 0, but for an alpha of 1. */
        Field widened(Field field, int wide) {
            if (field.width == wide) {
                return field;
            }
            return of(wide, List.of(field), (in, out, places) -> {
                for (int c = 0; c < wide; c++) {
                    int from = field.width == 1 ? 0 : c;
                    if (from < field.width) {
                        System.arraycopy(in[0], from * places.count, out, c * places.count, places.count);
                    } else {
                        Arrays.fill(out, c * places.count, (c + 1) * places.count, c == 3 ? 1f : 0f);
                    }
                }
            });
        }

        Field component(Field field, int number) {
            int from = Math.clamp(number, 0, field.width - 1);
            return of(
                    1,
                    List.of(field),
                    (in, out, places) -> System.arraycopy(in[0], from * places.count, out, 0, places.count));
        }

        /** Several fields' components one after another. */
        Field together(List<Field> parts) {
            int wide = parts.stream().mapToInt(Field::width).sum();
            return of(wide, parts, (in, out, places) -> {
                int at = 0;
                for (float[] part : in) {
                    System.arraycopy(part, 0, out, at, part.length);
                    at += part.length;
                }
            });
        }
    }

    int number() {
        return number;
    }

    /** The number of its components. */
    int width() {
        return width;
    }

    /** Over which sets of texture coordinates it varies: bit 0 for the first. */
    int sets() {
        return sets;
    }

    /** Whether it is the same everywhere. */
    boolean isSteady() {
        return steady;
    }

    void fill(Batch places, float[] out) {
        float[][] in = new float[inputs.size()][];
        for (int i = 0; i < in.length; i++) {
            in[i] = places.of(inputs.get(i));
        }
        rule.fill(in, out, places);
    }

    /** What it comes to at one place. */
    float[] at(float u, float v) {
        return Batch.at(u, v).of(this).clone();
    }
}
