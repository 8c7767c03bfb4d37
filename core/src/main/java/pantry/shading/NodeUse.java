package pantry.shading;

import java.util.Optional;
import pantry.model.ShaderNetwork.Input;

/** A node in its network. */
interface NodeUse {
    String category();

    /** Which of several outputs is wanted; empty for the only one. */
    String output();

    /** The number of components of what comes out. */
    int width();

    /** What the document says of an input, with what the graph around gives. */
    Optional<Input> said(String name);

    /** What an input comes to, in as many components as its default has at most. */
    Field input(String name, float... otherwise);

    /** What an input comes to, in however many components. */
    Field all(String name, float... otherwise);
}
