package pantry.usd.edit;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.ObjIntConsumer;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.Stage;
import pantry.usd.compose.StageChange;

/**
 * The edits of one change, made one after the other, each seeing what the ones before did. Paths are those of the
 * stage; what is said goes to the {@link EditTarget}. All throw {@link UsdException} where an edit cannot be made;
 * the change as a whole is then taken back.
 */
public final class Transaction {
    private final Backing backing;
    private final EditTarget target;
    private final List<LayerEdit> edits = new ArrayList<>();
    private final Set<SdfPath> resynced = new LinkedHashSet<>();
    private final Set<SdfPath> changed = new LinkedHashSet<>();
    private boolean open = true;

    /** What the operations of this transaction write to. */
    private final EditLog log = new EditLog() {
        @Override
        public Stage stage() {
            return Transaction.this.stage();
        }

        @Override
        public void run(LayerEdit edit) {
            if (!open) {
                throw new IllegalStateException("the change is done; begin another for further edits");
            }
            backing.run(edit);
            edits.add(edit);
        }
    };

    /** What is edited, as a transaction needs it. */
    interface Backing extends EditLog {
        /** Lets the stage take in what was edited since the last time. */
        StageChange takeIn();
    }

    Transaction(Backing backing, EditTarget target) {
        this.backing = backing;
        this.target = target;
    }

    /** The stage with the edits so far. */
    public Stage stage() {
        StageChange taken = backing.takeIn();
        resynced.addAll(taken.resynced());
        changed.addAll(taken.changed());
        return backing.stage();
    }

    /** The edits; nothing more can be added. */
    List<LayerEdit> close() {
        open = false;
        return edits;
    }

    /** What all edits changed of the stage. */
    StageChange change() {
        stage();
        return new StageChange(resynced, changed);
    }

    /** Defines a prim, with overrides for those above where there are none; changes the type of one that is there. */
    public void define(SdfPath path, String typeName) {
        Layer layer = target.layer();
        SdfPath at = target.specPath(path);
        log.ensure(layer, at, Specifier.DEF);
        setHeader(layer, at, new LayerEdit.Header.Kind(Specifier.DEF, typeName));
    }

    /** Makes sure that the target can say something of a prim, without defining it. */
    public void override(SdfPath path) {
        log.ensure(target.layer(), target.specPath(path), Specifier.OVER);
    }

    /**
     * Adds a prim as the last child of another, which need not have a spec in the target yet.
     *
     * @throws UsdException where there is a prim of that name already
     */
    public void add(SdfPath parent, PrimSpec prim) {
        addAll(parent, List.of(prim));
    }

    /** As above, many at once. */
    public void addAll(SdfPath parent, Collection<PrimSpec> prims) {
        for (PrimSpec prim : prims) {
            SdfPath path = parent.child(prim.name());
            if (stage().prim(path).isPresent()) {
                throw new UsdException("there is already a prim at <" + path + ">");
            }
        }
        SdfPath at = target.specPath(parent);
        new Rearrangement(log)
                .add(target.layer(), at, prims.stream().map(PrimSpec::copy).toList());
    }

    private void setHeader(Layer layer, SdfPath at, LayerEdit.Header.Kind kind) {
        LayerEdit.Header.Kind before = LayerEdit.Header.Kind.of(LayerEdit.spec(layer, at));
        if (!before.equals(kind)) {
            log.run(new LayerEdit.Header(layer, at, before, kind));
        }
    }

    /**
     * Changes what the target says of a prim itself.
     *
     * @param change is given a draft of the prim's spec, without children and variants, and changes its metadata and
     *     properties; only what it changes is edited
     */
    public void change(SdfPath path, Consumer<PrimSpec> change) {
        override(path);
        Layer layer = target.layer();
        SdfPath at = target.specPath(path);
        PrimSpec before = LayerEdit.spec(layer, at);
        PrimSpec draft = before.copyOfOwn();
        change.accept(draft);
        setHeader(layer, at, LayerEdit.Header.Kind.of(draft));
        for (String field : union(before.metadata().keySet(), draft.metadata().keySet())) {
            setField(layer, at, field, draft.metadata().get(field));
        }
        for (String name : union(before.propertyNames(), draft.propertyNames())) {
            PropertySpec old = before.property(name).orElse(null);
            PropertySpec now = draft.property(name).orElse(null);
            if (old == null || now == null || !old.sameAs(now)) {
                log.run(LayerEdit.Property.of(layer, at, name, now));
            }
        }
    }

    private static Set<String> union(Set<String> one, Set<String> other) {
        Set<String> union = new LinkedHashSet<>(one);
        union.addAll(other);
        return union;
    }

    private void setField(Layer layer, SdfPath at, String field, @Nullable Value value) {
        LayerEdit.Field edit = LayerEdit.Field.of(layer, at, field, value);
        if (!Objects.equals(edit.before(), value)) {
            log.run(edit);
        }
    }

    /** Gives an attribute a default value; its declaration, time samples and metadata stay. */
    public void set(SdfPath attribute, String typeName, Value value) {
        changeAttribute(attribute, typeName, spec -> spec.setValue(value));
    }

    /** Gives an attribute a value at a time, in the target layer's own time codes. */
    public void setAt(SdfPath attribute, String typeName, double time, Value value) {
        changeAttribute(attribute, typeName, spec -> spec.timeSamples().put(time, value));
    }

    /** Lets weaker layers' values of an attribute not count. */
    public void block(SdfPath attribute, String typeName) {
        set(attribute, typeName, new Value.Block());
    }

    /** Changes what the target says of an attribute; one of another type is replaced. */
    public void changeAttribute(SdfPath attribute, String typeName, Consumer<AttributeSpec> change) {
        changeProperty(attribute, before -> {
            AttributeSpec spec =
                    before instanceof AttributeSpec old && old.typeName().equals(typeName)
                            ? old.copyAs(old.name())
                            : new AttributeSpec(attribute.name(), typeName);
            change.accept(spec);
            return spec;
        });
    }

    /** Changes what the target says of a relationship. */
    public void changeRelationship(SdfPath relationship, Consumer<RelationshipSpec> change) {
        changeProperty(relationship, before -> {
            RelationshipSpec spec = before instanceof RelationshipSpec old
                    ? old.copyAs(old.name())
                    : new RelationshipSpec(relationship.name());
            change.accept(spec);
            return spec;
        });
    }

    private interface PropertyChange {
        PropertySpec of(@Nullable PropertySpec before);
    }

    private void changeProperty(SdfPath property, PropertyChange change) {
        SdfPath prim = property.prim();
        override(prim);
        SdfPath at = target.specPath(prim);
        PropertySpec before =
                LayerEdit.spec(target.layer(), at).property(property.name()).orElse(null);
        log.run(LayerEdit.Property.of(target.layer(), at, property.name(), change.of(before)));
    }

    /** Takes back what the target says of a property; nothing where it says nothing. */
    public void clear(SdfPath property) {
        SdfPath at = target.specPath(property.prim());
        if (target.layer()
                .prim(at)
                .flatMap(prim -> prim.property(property.name()))
                .isPresent()) {
            log.run(LayerEdit.Property.of(target.layer(), at, property.name(), null));
        }
    }

    /** Takes back all that the target says of a prim and what is below it; nothing where it says nothing. */
    public void clearPrim(SdfPath path) {
        SdfPath at = target.specPath(path);
        if (target.layer().prim(at).isPresent()) {
            log.run(LayerEdit.Child.of(target.layer(), at.parent(), path.name(), null));
        }
    }

    /** Gives a prim a metadata field. */
    public void setField(SdfPath prim, String field, Value value) {
        override(prim);
        setField(target.layer(), target.specPath(prim), field, value);
    }

    /** Takes back what the target says of a metadata field. */
    public void clearField(SdfPath prim, String field) {
        SdfPath at = target.specPath(prim);
        if (target.layer().prim(at).isPresent()) {
            setField(target.layer(), at, field, null);
        }
    }

    /** Selects a variant, beside the selections in other sets. */
    public void select(SdfPath prim, String set, String variant) {
        override(prim);
        SdfPath at = target.specPath(prim);
        Map<String, String> selections = new LinkedHashMap<>();
        if (LayerEdit.spec(target.layer(), at).metadata().get("variants") instanceof Value.Selections before) {
            selections.putAll(before.bySet());
        }
        selections.put(set, variant);
        setField(target.layer(), at, "variants", new Value.Selections(selections));
    }

    /** Makes an empty variant, and names its set among the prim's; nothing where it is there. */
    public void addVariant(SdfPath prim, String set, String variant) {
        SdfPath at = target.specPath(prim);
        log.ensure(target.layer(), at.variant(set, variant), Specifier.OVER);
        List<String> named =
                LayerEdit.spec(target.layer(), at).metadata().get("variantSets") instanceof Value.TokenEdit(var edit)
                        ? edit.applyTo(List.of())
                        : List.of();
        if (!named.contains(set)) {
            List<String> all = new ArrayList<>(named);
            all.add(set);
            setField(target.layer(), at, "variantSets", new Value.TokenEdit(ListEdit.prepend(all)));
        }
    }

    /** Gives the target's layer a metadata field, or takes it away where null. */
    public void setLayerField(String field, @Nullable Value value) {
        setField(target.layer(), SdfPath.ROOT, field, value);
    }

    /** Gives the target's layer other sublayers, the strongest first. */
    public void setSubLayers(List<Layer.SubLayer> subLayers) {
        Layer layer = target.layer();
        log.run(new LayerEdit.SubLayers(layer, List.copyOf(layer.subLayers()), List.copyOf(subLayers)));
    }

    /** Puts a prim's children in an order; those not named keep their place behind the one before them. */
    public void reorder(SdfPath parent, List<String> names) {
        setField(parent, "primOrder", new Value.Strings(names));
    }

    /**
     * Removes a prim with all below it from every layer of the stack.
     *
     * @throws UsdException where another file brings it in, so that it can only be switched off
     */
    public void remove(SdfPath path) {
        removeAll(List.of(path));
    }

    /**
     * As above, many at once: each by itself would cost as much as there are siblings.
     *
     * @param paths none below another
     */
    public void removeAll(Collection<SdfPath> paths) {
        new Rearrangement(log).remove(paths);
    }

    /**
     * Puts another spec in the place of what the target says of a prim and all below it.
     *
     * @param change is given a deep copy, and returns what is to stand there
     */
    public void replace(SdfPath path, UnaryOperator<PrimSpec> change) {
        SdfPath at = target.specPath(path);
        PrimSpec before = LayerEdit.spec(target.layer(), at);
        log.run(LayerEdit.Child.of(target.layer(), at.parent(), path.name(), change.apply(before.copy())));
    }

    /** Lets all that refers to a prim, or to what is below it, refer to another one instead. */
    public void retarget(SdfPath from, SdfPath to) {
        for (Layer layer : stage().layerStack()) {
            PathRemapping.follow(log, layer, SdfPath.ROOT, path -> path.replacePrefix(from, to));
        }
    }

    /** Gives a prim another name. What refers to it follows. */
    public void rename(SdfPath path, String name) {
        move(path, path.parent().child(name));
    }

    /**
     * Moves a prim with all below it, in every layer of the stack, to another path. Targets, connections, classes and
     * references within the stack's layers follow.
     *
     * @throws UsdException where there is something already, or another file brings the prim in
     */
    public void move(SdfPath from, SdfPath to) {
        new Rearrangement(log).move(from, to);
    }

    /**
     * As above, many at once: for each by itself, the whole layer would be looked through for what refers to it.
     *
     * @param moves from where each is to where it is to be, none below another
     */
    public void moveAll(Map<SdfPath, SdfPath> moves) {
        new Rearrangement(log).move(moves);
    }

    /**
     * Copies a prim with all below it, in every layer of the stack. What it refers to within itself is the copy's own;
     * all else is shared with the original.
     *
     * @throws UsdException where there is something already, or another file brings the prim in
     */
    public void copy(SdfPath from, SdfPath to) {
        copyAll(Map.of(to, from));
    }

    /**
     * As above, many at once.
     *
     * @param sources what is copied, by the paths of the copies, in their order
     */
    public void copyAll(Map<SdfPath, SdfPath> sources) {
        new Rearrangement(log).copy(sources);
    }

    /**
     * Copies a prim many times beside itself, in one edit: each copy by itself would have the stage looked at anew.
     *
     * @param names of the copies, all free
     * @param change what becomes of each copy, which is given with its number from 0
     * @throws UsdException where another file brings the prim in
     */
    public void copies(SdfPath from, List<String> names, ObjIntConsumer<PrimSpec> change) {
        SdfPath parent = from.parent();
        boolean alone = stage().layerStack().stream()
                .allMatch(layer -> layer == target.layer() || layer.prim(from).isEmpty());
        if (!alone || !target.specPath(from).equals(from)) {
            for (int i = 0; i < names.size(); i++) {
                int number = i;
                SdfPath copy = parent.child(names.get(i));
                copy(from, copy);
                change(copy, spec -> change.accept(spec, number));
            }
            return;
        }
        PrimSpec original = LayerEdit.spec(target.layer(), from);
        replace(parent, group -> {
            for (int i = 0; i < names.size(); i++) {
                SdfPath to = parent.child(names.get(i));
                PrimSpec copy = original.copyAs(to.name());
                PathRemapping.apply(copy, path -> path.replacePrefix(from, to));
                change.accept(copy, i);
                group.add(copy);
            }
            return group;
        });
    }
}
