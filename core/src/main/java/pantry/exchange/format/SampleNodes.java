package pantry.exchange.format;

import pantry.model.Model;

/** Nodes of a model that are there only to show what has no surface of its own, such as the ball of a material. */
public final class SampleNodes {
    /** The name of the object that only shows a material; those of other samples begin with it. */
    public static final String NAME = "Sample";

    private SampleNodes() {}

    /** Whether an object of this name only shows what has no surface. */
    public static boolean isSample(String name) {
        return name.startsWith(NAME);
    }

    /** What of a model is not there only to show the rest. */
    public static Model without(Model model) {
        return model.without(node -> isSample(node.name()));
    }
}
