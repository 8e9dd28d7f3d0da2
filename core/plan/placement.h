// Places of single things of a plan, for whoever edits it. What computes light takes the whole set at once
// (placed/placed_set.h), which asks these.
#pragma once

#include "plan/plan.h"
#include "plan/pose.h"

namespace easel {

/// Sitter local space -> studio space.
Vec3 sitterToStudio(const Plan& plan, Vec3 local);
/// Face point that lights aim at: between the eyes and the nose.
Vec3 facePoint(const Plan& plan);

/// The thing that the light works on, when it is in the set; nullptr: the sitter or the backdrop.
const Panel* workedOn(const Plan& plan, const Light& light);

LightPose lightPose(const Plan& plan, const Light& light);

/// Whether the light sits round the lens: its place is the camera's, not the one that the light says.
bool onLens(const Light& light);

/// Straight-line distance from the modifier's centre to the face point [m], and the elevation of that line [degrees].
double distanceToFace(const Plan& plan, const Light& light);
double elevationFromFace(const Plan& plan, const Light& light);
/// Degrees the modifier points below the horizontal.
double downTilt(const Plan& plan, const Light& light);

/// Feather [degrees, as Light::pan] that brings the modifier's edge in line with the face, its body in front of the
/// sitter, on the camera's side: the even part of the light works, and the backdrop gets less. 0 round the lens.
double edgeFeather(const Plan& plan, const Light& light);

CameraPose cameraPose(const Plan& plan, double aspect);
/// ... of the plan's own frame.
CameraPose cameraPose(const Plan& plan);

}  // namespace easel
