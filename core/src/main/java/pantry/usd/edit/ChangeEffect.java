package pantry.usd.edit;

/**
 * Something that belongs to a change of a stage and is not said in any layer, such as a version that was published for
 * it.
 */
public interface ChangeEffect {
    void undo();

    /** Does it again; where it throws, the change is not done again either. */
    void redo();
}
