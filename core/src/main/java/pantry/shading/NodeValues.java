package pantry.shading;

import java.util.Arrays;
import pantry.model.ShaderNetwork.Input;

/** Values as MaterialX's documents write them. */
public final class NodeValues {
    private NodeValues() {}

    /** How many numbers a type has; 1 where it is none of those that have several. */
    public static int width(String type) {
        return switch (type) {
            case "vector2" -> 2;
            case "color3", "vector3" -> 3;
            case "color4", "vector4" -> 4;
            default -> 1;
        };
    }

    /** The numbers that an input says: one, or as many as its type has; none where it says something else. */
    public static float[] numbers(Input input) {
        if (input.type().equals("boolean")) {
            return new float[] {input.value().strip().equals("true") ? 1 : 0};
        }
        String[] words = input.value().split(",");
        float[] numbers = new float[words.length];
        for (int i = 0; i < words.length; i++) {
            try {
                numbers[i] = Float.parseFloat(words[i].strip());
            } catch (NumberFormatException e) {
                return new float[0];
            }
            if (!Float.isFinite(numbers[i])) {
                return new float[0];
            }
        }
        int wide = width(input.type());
        return numbers.length == wide || numbers.length == 1 ? numbers : Arrays.copyOf(numbers, wide);
    }
}
