// A person: from the package's shapes and parts to a Sitter.
#pragma once

#include "human.h"
#include "sitters/people.h"
#include "sitters/sitter.h"

namespace easel::bake {

/// The finished sitter. Throws std::runtime_error when the package lacks something.
Sitter bakeSitter(const HumanPackage& package, const Person& person);

}  // namespace easel::bake
