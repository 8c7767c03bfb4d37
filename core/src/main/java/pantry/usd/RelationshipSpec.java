package pantry.usd;

/** A layer's opinion of a relationship's targets. */
public final class RelationshipSpec extends PropertySpec {
    private ListEdit<SdfPath> targets = ListEdit.none();

    public RelationshipSpec(String name) {
        super(name);
    }

    public ListEdit<SdfPath> targets() {
        return targets;
    }

    public RelationshipSpec setTargets(ListEdit<SdfPath> targets) {
        this.targets = targets;
        return this;
    }

    @Override
    public boolean sameAs(PropertySpec other) {
        return other instanceof RelationshipSpec relationship
                && sameDeclaration(other)
                && targets.equals(relationship.targets);
    }

    @Override
    public RelationshipSpec copyAs(String newName) {
        RelationshipSpec copy = new RelationshipSpec(newName);
        copy.setCustom(custom());
        copy.targets = targets;
        copyMetadataTo(copy);
        return copy;
    }
}
