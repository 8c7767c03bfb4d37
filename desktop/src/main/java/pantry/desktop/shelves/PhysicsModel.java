package pantry.desktop.shelves;

import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import pantry.model.PhysicalMaterial;

/** What is written of an asset's friction, bounce and density, until it is published. */
final class PhysicsModel {
    /** A number that is written. */
    enum Field {
        STATIC("friction at rest"),
        DYNAMIC("friction, sliding"),
        RESTITUTION("bounce, 0 to 1"),
        DENSITY("density, kg/m³");

        private final String title;

        Field(String title) {
            this.title = title;
        }

        /** What stands before it. */
        String title() {
            return title;
        }

        private OptionalDouble of(PhysicalMaterial material) {
            return switch (this) {
                case STATIC -> material.staticFriction();
                case DYNAMIC -> material.dynamicFriction();
                case RESTITUTION -> material.restitution();
                case DENSITY -> material.density();
            };
        }
    }

    private final List<PhysicalMaterial> materials;
    private final ObjectProperty<PhysicalMaterial> chosen;
    private final Map<Field, StringProperty> texts = new LinkedHashMap<>();
    private final ReadOnlyObjectWrapper<Optional<PhysicalMaterial>> wish =
            new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyStringWrapper problem = new ReadOnlyStringWrapper("");

    /** Whether the fields are being filled rather than written in. */
    private boolean filling;

    /** @param materials of the asset, at least one */
    PhysicsModel(List<PhysicalMaterial> materials) {
        this.materials = materials;
        this.chosen = new SimpleObjectProperty<>(materials.getFirst());
        for (Field field : Field.values()) {
            StringProperty text = new SimpleStringProperty("");
            text.addListener(change -> look());
            texts.put(field, text);
        }
        chosen.subscribe(this::fill);
    }

    List<PhysicalMaterial> materials() {
        return materials;
    }

    /** The one that is changed. */
    ObjectProperty<PhysicalMaterial> chosenProperty() {
        return chosen;
    }

    /** What is written for a number; nothing where it is not said. */
    StringProperty textProperty(Field field) {
        return texts.get(field);
    }

    /** What can be published; empty where it is as it was, or cannot be. */
    ReadOnlyObjectProperty<Optional<PhysicalMaterial>> wishProperty() {
        return wish.getReadOnlyProperty();
    }

    /** What is wrong with what is written; empty where nothing is. */
    ReadOnlyStringProperty problemProperty() {
        return problem.getReadOnlyProperty();
    }

    private void fill(PhysicalMaterial material) {
        filling = true;
        texts.forEach((field, text) -> {
            OptionalDouble number = field.of(material);
            text.set(number.isPresent() ? PhysicalMaterial.plain(number.getAsDouble()) : "");
        });
        filling = false;
        look();
    }

    private void look() {
        if (filling) {
            return;
        }
        PhysicalMaterial before = chosen.get();
        Map<Field, OptionalDouble> numbers = new EnumMap<>(Field.class);
        for (Field field : Field.values()) {
            try {
                numbers.put(field, number(field, before));
            } catch (NumberFormatException e) {
                problem.set(field.title() + ": a number, or nothing");
                wish.set(Optional.empty());
                return;
            }
        }
        PhysicalMaterial written = new PhysicalMaterial(
                before.path(),
                numbers.get(Field.STATIC),
                numbers.get(Field.DYNAMIC),
                numbers.get(Field.RESTITUTION),
                numbers.get(Field.DENSITY));
        List<String> problems = written.problems();
        problem.set(String.join("; ", problems));
        wish.set(Optional.of(written).filter(each -> problems.isEmpty() && !each.equals(before)));
    }

    /** What is written in a field. */
    private OptionalDouble number(Field field, PhysicalMaterial before) {
        String text = texts.get(field).get().strip().replace(',', '.');
        OptionalDouble known = field.of(before);
        if (known.isPresent() && text.equals(PhysicalMaterial.plain(known.getAsDouble()))) {
            return known;
        }
        return text.isEmpty() ? OptionalDouble.empty() : OptionalDouble.of(Double.parseDouble(text));
    }
}
